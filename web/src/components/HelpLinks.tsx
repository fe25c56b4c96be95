import type { ReactNode } from "react";
import { Link } from "react-router";
import { usePractice } from "../api/practice";
import { Problem } from "./Problem";

/** The ways to more help; `children` are those of the screen itself. */
export function HelpLinks({ children }: { children: ReactNode }) {
  const practise = usePractice();
  return (
    <>
      <p className="flex flex-wrap gap-x-5 gap-y-2">
        {children}
        <Link className="quiet" to="/words">
          Words of the sport
        </Link>
        <button type="button" className="quiet" onClick={() => practise.mutate(false)}>
          Practise on a 90-second clip
        </button>
      </p>
      <Problem error={practise.error} />
    </>
  );
}

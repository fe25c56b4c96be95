import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { Problem } from "../components/Problem";
import { useKeys } from "../desk/useKeys";
import { usePractice } from "../practice/Tour";
import { openKeyCard } from "./keyCard";

/** The ways to more help, the same everywhere. */
export function HelpLinks({ scoring }: { scoring?: () => void }) {
  const { own } = useKeys();
  const practise = usePractice();
  const card = useMutation({ mutationFn: () => openKeyCard(own) });
  return (
    <>
      <p className="flex flex-wrap gap-x-5 gap-y-2">
        {scoring ? (
          <button type="button" className="quiet" onClick={scoring}>
            How it is scored here
          </button>
        ) : (
          <Link className="quiet" to="/rulebook">
            How it is scored: the rulebook
          </Link>
        )}
        <Link className="quiet" to="/words">
          Words of the sport
        </Link>
        <button type="button" className="quiet" onClick={() => card.mutate()}>
          {card.isPending ? "Making the key card…" : "Key card (PDF)"}
        </button>
        <button type="button" className="quiet" onClick={() => practise.mutate(false)}>
          Practise on a 90-second clip
        </button>
      </p>
      <Problem error={practise.error ?? card.error} />
    </>
  );
}

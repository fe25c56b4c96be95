import { useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import { HelpLinks } from "./HelpLinks";
import { helpFor } from "./helpPages";
import { Sheet } from "./Sheet";

/** Whether a key press is meant for something that is typed in. */
function typing(event: KeyboardEvent): boolean {
  return (event.target as HTMLElement).closest("input, textarea, select, [role=dialog], [role=alertdialog]") !== null;
}

/** What this screen is for, by a button or the key `?`. */
export function Help() {
  const [open, setOpen] = useState(false);
  const { pathname } = useLocation();
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== "?" || typing(event)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  const page = helpFor(pathname);
  return (
    <>
      <button type="button" className="quiet" onClick={() => setOpen(true)}>
        Help <span className="key">?</span>
      </button>
      <Sheet title={page?.title ?? "Help"} width="narrow" back="Close" open={open} setOpen={setOpen}>
        {page?.text.map((text) => (
          <p key={text} className="pb-3">
            {text}
          </p>
        ))}
        <div className="border-t-2 border-rule pt-3">
          <HelpLinks>
            <Link className="quiet" to="/rulebook">
              How it is scored: the rulebook
            </Link>
          </HelpLinks>
        </div>
      </Sheet>
    </>
  );
}

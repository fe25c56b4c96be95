import { Coaches } from "./Coaches";
import { AthleteForm } from "../components/AthleteForm";
import { useAthletes } from "../api/athletes";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Athlete, ok } from "../api/client";
import { Confirm } from "../components/Confirm";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { rulebookOf } from "../components/asked";

export function Athletes() {
  const athletes = useAthletes();
  const [editing, setEditing] = useState<Athlete | null>(null);
  return (
    <PaperPage title="Athletes">
      <Problem error={athletes.error} />
      <div className="grid gap-10 md:grid-cols-[1fr_320px]">
        <ul className="border-t-2 border-rule">
          {athletes.data?.length === 0 && <li className="py-4 text-slate">No athletes yet. Add the first one with the form.</li>}
          {athletes.data?.map((athlete) => (
            <li key={athlete.id} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-3">
              <Link className="font-serif text-xl hover:underline" to={`/athletes/${athlete.id}`}>
                {athlete.name}
              </Link>
              <span className="text-slate">
                born {athlete.birth_year}, {athlete.belt} belt
                {athlete.child && <span className="block">{athlete.consent ? `child; ${athlete.consent} agreed to links` : "child"}</span>}
              </span>
              <span className="ml-auto flex flex-wrap gap-x-4">
                <Link className="quiet" to={`/athletes/${athlete.id}`} aria-label={`Season of ${athlete.name}`}>
                  Season
                </Link>
                <Link
                  className="quiet"
                  to={rulebookOf(
                    {
                      age: new Date().getFullYear() - athlete.birth_year,
                      belt: athlete.belt,
                      attire: "gi",
                      ruleset: "full-points",
                    },
                    athlete.name,
                  )}
                >
                  Rules
                </Link>
                <Coaches athlete={athlete} />
                <button type="button" className="quiet" onClick={() => setEditing(athlete)}>
                  Change
                </button>
                <Remove athlete={athlete} />
              </span>
            </li>
          ))}
        </ul>
        <AthleteForm key={editing?.id ?? "new"} athlete={editing} done={() => setEditing(null)} />
      </div>
    </PaperPage>
  );
}

/** Deletes an athlete without matches, once that is confirmed. */
function Remove({ athlete }: { athlete: Athlete }) {
  const queries = useQueryClient();
  const remove = useMutation({
    mutationFn: (id: number) => ok(api.DELETE("/api/athletes/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["athletes"] }),
  });
  return (
    <>
      <Confirm
        trigger="Delete"
        label={`Delete ${athlete.name}`}
        title={`Delete ${athlete.name}?`}
        act="Delete the athlete"
        run={() => remove.mutate(athlete.id)}
        error={null}
      >
        The athlete goes with their plans, consents and named coaches; this can&rsquo;t be undone. Matches stay: an athlete who has some is
        not deleted. To delete all about an athlete, delete their matches first, then remove them for good on the list of deleted matches;
        the athlete or a guardian can also ask for it under &ldquo;Your data&rdquo;.
      </Confirm>
      <Problem error={remove.error} />
    </>
  );
}

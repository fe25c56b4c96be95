import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Athlete, ok } from "../api/client";
import { useMay } from "../api/session";
import { Problem } from "../components/Problem";
import { Sheet } from "../components/Sheet";

/** The coaches named for an athlete: of a child, no others see the footage and the reports. */
export function Coaches({ athlete }: { athlete: Athlete }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="quiet" onClick={() => setOpen(true)}>
        Coaches
      </button>
      <Sheet open={open} setOpen={setOpen} width="narrow" back="Back to the athletes" title={`Coaches of ${athlete.name}`}>
        {open && <Named athlete={athlete} />}
      </Sheet>
    </>
  );
}

function Named({ athlete }: { athlete: Athlete }) {
  const head = useMay("club");
  const queries = useQueryClient();
  const key = ["coaches", athlete.id];
  const path = { params: { path: { id: athlete.id } } };
  const coaches = useQuery({ queryKey: key, queryFn: () => ok(api.GET("/api/athletes/{id}/coaches", path)) });
  const name = useMutation({
    mutationFn: (body: { user: number; named: boolean }) => ok(api.PUT("/api/athletes/{id}/coaches", { ...path, body })),
    onSuccess: (now) => queries.setQueryData(key, now),
  });
  return (
    <>
      <p className="mb-3 text-slate">
        {athlete.child
          ? `${athlete.name} is a child by your club's rule: only the coaches named here see the footage and reports, and the guardians.`
          : `${athlete.name} is an adult: every coach of the club sees the footage and reports.`}
      </p>
      <ul>
        {coaches.data?.map((one) => (
          <li key={one.user} className="border-b border-rule py-2">
            <label className="flex gap-3">
              <input
                type="checkbox"
                className="accent-amber-deep"
                checked={one.named}
                disabled={!head || name.isPending}
                onChange={(event) => name.mutate({ user: one.user, named: event.target.checked })}
              />
              {one.name}
            </label>
          </li>
        ))}
      </ul>
      {!head && <p className="mt-3 text-slate">A head coach names the coaches.</p>}
      <Problem error={coaches.error ?? name.error} />
    </>
  );
}

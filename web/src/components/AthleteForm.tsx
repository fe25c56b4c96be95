import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Athlete, ok } from "../api/client";
import { BELTS } from "./division";
import { athletesChanged } from "../api/athletes";
import { Problem } from "./Problem";

/** Add an athlete, or change the one given. */
export function AthleteForm({ athlete, done }: { athlete: Athlete | null; done: (saved: Athlete) => void }) {
  const queries = useQueryClient();
  const [name, setName] = useState(athlete?.name ?? "");
  const [year, setYear] = useState(String(athlete?.birth_year ?? ""));
  const [belt, setBelt] = useState<Athlete["belt"]>(athlete?.belt ?? "white");
  const save = useMutation({
    mutationFn: () => {
      const body = { name, birth_year: Number(year), belt };
      return athlete
        ? ok(api.PATCH("/api/athletes/{id}", { params: { path: { id: athlete.id } }, body }))
        : ok(api.POST("/api/athletes", { body }));
    },
    onSuccess: (saved) => {
      void athletesChanged(queries);
      void queries.invalidateQueries({ queryKey: ["matches"] });
      setName("");
      setYear("");
      done(saved);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    event.stopPropagation();
    save.mutate();
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4">
      <h2 className="text-xl font-semibold">{athlete ? `Change ${athlete.name}` : "Add an athlete"}</h2>
      <label>
        <span className="mb-1 block font-semibold">Name</span>
        <input className="field" required maxLength={80} value={name} onChange={(event) => setName(event.target.value)} />
      </label>
      <label>
        <span className="mb-1 block font-semibold">Year of birth</span>
        <input
          className="field"
          required
          inputMode="numeric"
          pattern="[0-9]{4}"
          title="Four digits, such as 2009"
          value={year}
          onChange={(event) => setYear(event.target.value)}
        />
      </label>
      <label>
        <span className="mb-1 block font-semibold">Belt</span>
        <select className="field" value={belt} onChange={(event) => setBelt(event.target.value as Athlete["belt"])}>
          {BELTS.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      <Problem error={save.error} />
      <button type="submit" className="act self-start" disabled={save.isPending}>
        {athlete ? "Save" : "Add"}
      </button>
    </form>
  );
}

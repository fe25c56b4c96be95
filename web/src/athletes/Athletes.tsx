import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { api, type Athlete, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { BELTS } from "../matches/division";
import { rulebookOf } from "../rulebook/asked";

export function useAthletes() {
  return useQuery({ queryKey: ["athletes"], queryFn: () => ok(api.GET("/api/athletes")) });
}

export function Athletes() {
  const athletes = useAthletes();
  const queries = useQueryClient();
  const [editing, setEditing] = useState<Athlete | null>(null);
  const remove = useMutation({
    mutationFn: (id: number) => ok(api.DELETE("/api/athletes/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["athletes"] }),
  });
  return (
    <PaperPage title="Athletes">
      <Problem error={athletes.error ?? remove.error} />
      <div className="grid gap-10 md:grid-cols-[1fr_320px]">
        <ul className="border-t-2 border-rule">
          {athletes.data?.length === 0 && <li className="py-4 text-slate">Nobody yet. Add the first athlete beside.</li>}
          {athletes.data?.map((athlete) => (
            <li key={athlete.id} className="flex items-baseline gap-4 border-b border-rule py-3">
              <span className="font-serif text-xl">{athlete.name}</span>
              <span className="text-slate">born {athlete.birth_year}, {athlete.belt} belt</span>
              <span className="ml-auto flex gap-4">
                <Link className="quiet" to={rulebookOf({ age: new Date().getFullYear() - athlete.birth_year, belt: athlete.belt, attire: "gi", ruleset: "full-points" }, athlete.name)}>Rules</Link>
                <button type="button" className="quiet" onClick={() => setEditing(athlete)}>Change</button>
                <button type="button" className="quiet" onClick={() => remove.mutate(athlete.id)}>Delete</button>
              </span>
            </li>
          ))}
        </ul>
        <AthleteForm key={editing?.id ?? "new"} athlete={editing} done={() => setEditing(null)} />
      </div>
    </PaperPage>
  );
}

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
      void queries.invalidateQueries({ queryKey: ["athletes"] });
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
        <input className="field" required inputMode="numeric" pattern="[0-9]{4}" title="Four digits, such as 2009"
          value={year} onChange={(event) => setYear(event.target.value)} />
      </label>
      <label>
        <span className="mb-1 block font-semibold">Belt</span>
        <select className="field" value={belt} onChange={(event) => setBelt(event.target.value as Athlete["belt"])}>
          {BELTS.map((name) => <option key={name}>{name}</option>)}
        </select>
      </label>
      <Problem error={save.error} />
      <button type="submit" className="act self-start" disabled={save.isPending}>{athlete ? "Save" : "Add"}</button>
    </form>
  );
}

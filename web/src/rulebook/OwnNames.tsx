import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Entry, ok } from "../api/client";
import { Problem } from "../components/Problem";

/** A coach's own names of a technique, or of variants that are treated as it. */
export function OwnNames({ entry }: { entry: Entry }) {
  const queries = useQueryClient();
  const own = useQuery({ queryKey: ["technique-names"], queryFn: () => ok(api.GET("/api/technique-names")), staleTime: Infinity });
  const [name, setName] = useState("");
  const renewed = () =>
    Promise.all(["technique-names", "techniques", "division"].map((key) => queries.invalidateQueries({ queryKey: [key] })));
  const add = useMutation({
    mutationFn: () => ok(api.POST("/api/technique-names", { body: { name, technique: entry.id } })),
    onSuccess: () => {
      setName("");
      return renewed();
    },
  });
  const remove = useMutation({
    mutationFn: (row: number) => ok(api.DELETE("/api/technique-names/{name}", { params: { path: { name: row } } })),
    onSuccess: renewed,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate();
  };
  return (
    <form onSubmit={submit} className="pt-1">
      {own.data
        ?.filter((row) => row.technique === entry.id)
        .map((row) => (
          <p key={row.id}>
            Your name for it: <b>{row.name}</b>{" "}
            <button type="button" className="quiet text-[15px]" onClick={() => remove.mutate(row.id)} aria-label={`Remove ${row.name}`}>
              remove
            </button>
          </p>
        ))}
      <label className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-slate">A name of your own, or of a variant that counts as this one</span>
        <input className="field w-52!" required maxLength={60} value={name} onChange={(event) => setName(event.target.value)} />
        <button type="submit" className="quiet" disabled={add.isPending}>
          Add
        </button>
      </label>
      <Problem error={add.error ?? remove.error} />
    </form>
  );
}

import { type ChangeEvent, type FormEvent, useState } from "react";
import { api, ok, type ShownDay } from "../api/client";
import { Label } from "../components/fields";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";

const EXAMPLE = "time,mat,athlete,opponent,club,round,weight_class,attire,ruleset";

/** Fights as a CSV table, pasted or from a file; all of them are added, or none where a line is wrong. */
export function TableForm({ day, shown, done }: { day: ShownDay; shown: string[]; done: () => void }) {
  const [table, setTable] = useState(`${EXAMPLE}\n`);
  const add = useDoing<undefined>(shown, async () => {
    await ok(api.POST("/api/event-days/{day}/table", { params: { path: { day: day.id } }, body: { table } }));
    done();
  });
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    void event.target.files?.[0]?.text().then(setTable);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate(undefined);
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4">
      <p>
        The first line names the columns, in any order. Only the athlete is needed, by the name they have in the club; separate by comma,
        semicolon or tab.
      </p>
      <Label text="A file">
        <input type="file" accept=".csv,.txt,text/csv" onChange={chosen} />
      </Label>
      <Label text="Or the table itself">
        <textarea
          className="field font-mono text-[14px]!"
          rows={8}
          required
          value={table}
          onChange={(event) => setTable(event.target.value)}
        />
      </Label>
      <Problem error={add.error} />
      <button type="submit" className="act self-start" disabled={add.isPending}>
        Add the fights
      </button>
    </form>
  );
}

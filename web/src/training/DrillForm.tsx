import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type KindOfError, type NewDrill, ok, type PositionName } from "../api/client";
import { Label } from "../components/fields";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { POSITION_WORDS } from "../components/words";

/** A drill: what it is called, how it is done, how long it takes, and what it is for. */
export function DrillForm({
  drill,
  id,
  kinds,
  done,
}: {
  drill: NewDrill;
  id: number | null;
  kinds: Pick<KindOfError, "kind" | "name">[];
  done: () => void;
}) {
  const [form, setForm] = useState(drill);
  const set = (part: Partial<NewDrill>) => setForm((now) => ({ ...now, ...part }));
  const save = useDoing<undefined>(["drills"], async () => {
    const { name, about, minutes, kinds, causes, positions } = form;
    const body = { name, about: about ?? "", minutes, kinds, causes, positions };
    await ok(id === null ? api.POST("/api/drills", { body }) : api.PUT("/api/drills/{drill}", { params: { path: { drill: id } }, body }));
    done();
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined);
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-5">
      <div className="grid gap-4 sm:grid-cols-[1fr_8rem]">
        <Label text="Name">
          <input className="field" required maxLength={80} value={form.name} onChange={(event) => set({ name: event.target.value })} />
        </Label>
        <Label text="Minutes">
          <input
            className="field"
            type="number"
            min={1}
            max={90}
            required
            value={form.minutes}
            onChange={(event) => set({ minutes: Number(event.target.value) })}
          />
        </Label>
      </div>
      <Label text="How it is done">
        <textarea className="field" rows={3} maxLength={600} value={form.about} onChange={(event) => set({ about: event.target.value })} />
      </Label>
      <Uses form={form} kinds={kinds} set={set} />
      <Problem error={save.error} />
      <button type="submit" className="act self-start" disabled={save.isPending}>
        Save
      </button>
    </form>
  );
}

/** What a drill is for. */
function Uses({
  form,
  kinds,
  set,
}: {
  form: NewDrill;
  kinds: Pick<KindOfError, "kind" | "name">[];
  set: (part: Partial<NewDrill>) => void;
}) {
  const causes = useQuery({ queryKey: ["causes"], queryFn: () => ok(api.GET("/api/causes")) });
  const positions = Object.keys(POSITION_WORDS) as PositionName[];
  return (
    <>
      <Choices
        title="Against these errors"
        all={kinds.map((one) => [one.kind, one.name])}
        chosen={form.kinds}
        set={(kinds) => set({ kinds })}
      />
      <Choices
        title="Against these causes"
        all={(causes.data?.causes ?? form.causes).map((one) => [one, one])}
        chosen={form.causes}
        set={(causes) => set({ causes })}
      />
      <Choices
        title="In these positions"
        all={positions.map((one) => [one, POSITION_WORDS[one]])}
        chosen={form.positions}
        set={(chosen) => set({ positions: chosen as PositionName[] })}
      />
    </>
  );
}

function Choices({
  title,
  all,
  chosen,
  set,
}: {
  title: string;
  all: [string, string][];
  chosen: readonly string[];
  set: (chosen: string[]) => void;
}) {
  return (
    <fieldset>
      <legend className="pb-1 font-semibold">{title}</legend>
      <div className="grid gap-x-5 sm:grid-cols-3">
        {all.map(([value, name]) => (
          <label key={value} className="flex items-baseline gap-2">
            <input
              type="checkbox"
              className="accent-amber-deep"
              checked={chosen.includes(value)}
              onChange={(event) => set(event.target.checked ? [...chosen, value] : chosen.filter((one) => one !== value))}
            />
            {name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

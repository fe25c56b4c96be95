import { useAthletes } from "../api/athletes";
import { BELTS } from "../components/division";
import type { Asked } from "../components/asked";
import { useRulesetChoices } from "../api/rulesets";

const THIS_YEAR = new Date().getFullYear();

/** Age or year of birth, belt, attire and ruleset; or an athlete, who brings age and belt. */
export function DivisionPicker({ asked, set, name }: { asked: Asked; set: (change: Partial<Asked>) => void; name: string }) {
  const rulesets = useRulesetChoices();
  const own = !rulesets.some((one) => one.value === asked.ruleset);
  return (
    <fieldset className="flex flex-wrap items-end gap-x-5 gap-y-3">
      <legend className="sr-only">{name}</legend>
      <AthleteChoice asked={asked} set={set} />
      <Age age={asked.age} set={(age) => set({ age })} />
      <label>
        <span className="mb-1 block font-semibold">Belt</span>
        <select className="field" value={asked.belt} onChange={(event) => set({ belt: event.target.value as Asked["belt"] })}>
          {BELTS.map((belt) => (
            <option key={belt}>{belt}</option>
          ))}
        </select>
      </label>
      <label>
        <span className="mb-1 block font-semibold">Attire</span>
        <select className="field" value={asked.attire} onChange={(event) => set({ attire: event.target.value as Asked["attire"] })}>
          <option value="gi">gi</option>
          <option value="nogi">no-gi</option>
        </select>
      </label>
      <label>
        <span className="mb-1 block font-semibold">Ruleset</span>
        <select className="field" value={asked.ruleset} onChange={(event) => set({ ruleset: event.target.value })}>
          {own && <option value={asked.ruleset}>this match&rsquo;s ruleset</option>}
          {rulesets.map((one) => (
            <option key={one.value} value={one.value}>
              {one.title}
            </option>
          ))}
        </select>
      </label>
    </fieldset>
  );
}

type Set = (change: Partial<Asked>) => void;

/** One of the coach's athletes, who brings age and belt. */
function AthleteChoice({ asked, set }: { asked: Asked; set: Set }) {
  const athletes = useAthletes().data ?? [];
  if (athletes.length === 0) return null;
  return (
    <label>
      <span className="mb-1 block font-semibold">Athlete</span>
      <select
        className="field"
        value={athletes.find((one) => one.name === asked.athlete)?.id ?? ""}
        onChange={(event) => {
          const one = athletes.find((athlete) => String(athlete.id) === event.target.value);
          set(one ? { age: THIS_YEAR - one.birth_year, belt: one.belt, athlete: one.name } : { athlete: "" });
        }}
      >
        <option value="">no athlete</option>
        {athletes.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The age, or the year of birth that gives it. */
function Age({ age, set }: { age: number; set: (age: number) => void }) {
  return (
    <>
      <label className="w-20">
        <span className="mb-1 block font-semibold">Age</span>
        <input
          className="field"
          type="number"
          min={4}
          max={120}
          value={age}
          onChange={(event) => event.target.value && set(Number(event.target.value))}
        />
      </label>
      <label className="w-24">
        <span className="mb-1 block font-semibold">or birth year</span>
        <input
          className="field"
          type="number"
          min={THIS_YEAR - 120}
          max={THIS_YEAR - 4}
          value={THIS_YEAR - age}
          onChange={(event) => event.target.value.length === 4 && set(THIS_YEAR - Number(event.target.value))}
        />
      </label>
    </>
  );
}

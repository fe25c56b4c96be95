import { Link, useNavigate } from "react-router";
import { api, type Fight, ok, type ShownDay } from "../api/client";
import { choiceOf } from "../api/rulesets";
import { rulebookOf } from "../components/asked";
import { Behind } from "../components/Moments";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf } from "../components/words";

const BACK = "Back to the day";

/** One fight: where and when, what has come in, what to look at before it, and what is known of the opponent. */
export function OneFight({ day, fight, shown, edit }: { day: ShownDay; fight: Fight; shown: string[]; edit: () => void }) {
  const navigate = useNavigate();
  const begin = useDoing<undefined>(shown, async () => {
    const made = await ok(api.POST("/api/event-days/{day}/fights/{fight}", { params: { path: { day: day.id, fight: fight.id } } }));
    void navigate(`/matches/${made.match}`);
  });
  const asked = { age: fight.age, belt: fight.athlete.belt, attire: fight.attire, ruleset: choiceOf(fight.ruleset) };
  return (
    <li className="grid gap-x-6 gap-y-2 border-b border-rule py-4 sm:grid-cols-[6rem_1fr_auto]">
      <div>
        <b className="block font-serif text-2xl leading-none">{fight.time?.slice(0, 5) ?? "–"}</b>
        {fight.mat && <span className="text-slate">mat {fight.mat}</span>}
      </div>
      <div>
        <p>
          <Link className="font-serif text-xl hover:underline" to={`/athletes/${fight.athlete.id}`}>
            {fight.athlete.name}
          </Link>{" "}
          against <b>{fight.opponent || "an opponent not known yet"}</b>
          {fight.club && ` (${fight.club})`}{" "}
          <span className="text-slate">
            {[fight.round, fight.weight_class, fight.attire, fight.ruleset_title].filter(Boolean).join(", ")}
          </span>
        </p>
        <State fight={fight} />
        <Before day={day} fight={fight} />
        <Problem error={begin.error} />
      </div>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 sm:flex-col sm:items-end">
        {fight.match ? (
          <Link className="act" to={`/matches/${fight.match}`}>
            {fight.clip ? "Score it" : "Add the clip"}
          </Link>
        ) : (
          <button type="button" className="act" disabled={begin.isPending} onClick={() => begin.mutate(undefined)}>
            Set it up
          </button>
        )}
        <Link className="quiet" to={rulebookOf(asked, fight.athlete.name)}>
          Rules and briefing
        </Link>
        <button type="button" className="quiet" onClick={edit} aria-label={`Change the fight of ${fight.athlete.name}`}>
          Change
        </button>
      </div>
    </li>
  );
}

function State({ fight }: { fight: Fight }) {
  if (!fight.state)
    return fight.match ? <p className="text-slate">{fight.clip ? "The clip is in; not scored yet." : "Set up; no clip yet."}</p> : null;
  const { a, b } = fight.state.score;
  return (
    <p>
      <b>
        {a.points}–{b.points}
      </b>{" "}
      {fight.state.because}
    </p>
  );
}

/** What to look at before a round: the last match, and the opponent where they were met before. */
function Before({ day, fight }: { day: ShownDay; fight: Fight }) {
  const { met, things } = fight;
  return (
    <>
      {things.length > 0 && (
        <p className="pt-1">
          <span className="text-slate">From the last match: </span>
          {things.map((thing, number) => (
            <span key={number}>
              {number > 0 && "; "}
              <Behind words={thing.name} title={thing.name} moments={[thing.moment]} played={day.played} back={BACK} />
            </span>
          ))}
          .
        </p>
      )}
      {met && (
        <div className="mt-2 border-l-4 border-sea pl-3">
          <p>
            Met before:{" "}
            {met.matches.map((one) => (
              <span key={one.match}>
                <Link className="quiet" to={`/matches/${one.match}/review`}>
                  {one.athlete} {one.result || "not over"} {dayOf(one.date)}
                </Link>{" "}
              </span>
            ))}
          </p>
          <Did title="They tried, and how often it worked" did={met.theirs} day={day} />
          <Did title="We tried on them" did={met.ours} day={day} />
        </div>
      )}
    </>
  );
}

function Did({ title, did, day }: { title: string; did: NonNullable<Fight["met"]>["theirs"]; day: ShownDay }) {
  if (!did.length) return null;
  return (
    <p>
      <span className="text-slate">{title}: </span>
      {did.map((one, number) => (
        <span key={one.name}>
          {number > 0 && ", "}
          <Behind words={`${one.name} ${one.done} of ${one.of}`} title={one.name} moments={one.moments} played={day.played} back={BACK} />
        </span>
      ))}
      .
    </p>
  );
}

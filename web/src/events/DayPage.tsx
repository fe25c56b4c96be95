import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, type Fight, ok, type ShownDay } from "../api/client";
import { Confirm } from "../components/Confirm";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { Sheet } from "../components/Sheet";
import { useDoing } from "../components/useDoing";
import { dayOf } from "../components/words";
import { FightForm } from "./FightForm";
import { OneFight } from "./OneFight";
import { TableForm } from "./TableForm";

/** On the day itself scores come in all the time. */
const LOOK_EVERY_MS = 15_000;

/** A day of fights: who fights when and where, what has come in, and what to look at before the next round. */
export function DayPage() {
  const { id = "" } = useParams();
  const key = ["event-day", id];
  const day = useQuery({
    queryKey: key,
    queryFn: () => ok(api.GET("/api/event-days/{day}", { params: { path: { day: Number(id) } } })),
    refetchInterval: LOOK_EVERY_MS,
  });
  if (!day.data) {
    return (
      <PaperPage title="Event day">
        {day.isPending && <p className="text-slate">Loading…</p>}
        <Problem error={day.error} />
      </PaperPage>
    );
  }
  return <Shown day={day.data} shown={key} />;
}

function Shown({ day, shown }: { day: ShownDay; shown: string[] }) {
  const [editing, setEditing] = useState<Fight | "new" | "table" | null>(null);
  const navigate = useNavigate();
  const remove = useDoing<undefined>(["event-days"], async () => {
    await ok(api.DELETE("/api/event-days/{day}", { params: { path: { day: day.id } } }));
    void navigate("/days");
  });
  return (
    <PaperPage
      title={day.name}
      aside={
        <span className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
          <span className="text-slate">
            {dayOf(day.date)}, {day.ruleset_title}
          </span>
          <button type="button" className="act" onClick={() => setEditing("new")}>
            Add a fight
          </button>
          <button type="button" className="quiet" onClick={() => setEditing("table")}>
            Add a table (CSV)
          </button>
          <Confirm
            trigger="Delete"
            label="Delete the day"
            title="Delete this day?"
            act="Delete"
            run={() => remove.mutate(undefined)}
            error={remove.error}
          >
            Matches that were set up for it stay.
          </Confirm>
        </span>
      }
    >
      {day.fights.length === 0 && <p>No fights yet. Add them one by one, or as a table.</p>}
      <ol className="border-t-2 border-rule empty:hidden">
        {day.fights.map((one) => (
          <OneFight key={one.id} day={day} fight={one} shown={shown} edit={() => setEditing(one)} />
        ))}
      </ol>
      <Sheet
        title={editing === "table" ? "Add a table of fights" : editing === "new" ? "A new fight" : "Change the fight"}
        width="middle"
        back="Back to the day"
        open={editing !== null}
        setOpen={() => setEditing(null)}
      >
        {editing === "table" && <TableForm day={day} shown={shown} done={() => setEditing(null)} />}
        {editing !== null && editing !== "table" && (
          <FightForm day={day} fight={editing === "new" ? null : editing} shown={shown} done={() => setEditing(null)} />
        )}
      </Sheet>
    </PaperPage>
  );
}

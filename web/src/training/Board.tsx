import { DndContext, type DragEndEvent, MouseSensor, TouchSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import type { PlanOfAthlete } from "../api/client";
import { weekdayOf } from "../components/PlanDays";

export type PlannedDrill = PlanOfAthlete["days"][number]["planned"][number];

const DAY_MS = 86_400_000;
const SHORT = new Intl.DateTimeFormat(undefined, { weekday: "short", day: "numeric", month: "short" });
/** So far a pointer moves before it drags: less is a click. */
const CLICK_PX = 6;
/** So long a finger rests on a drill before it drags: sooner it scrolls the page. */
const HELD_MS = 250;
const SAID = { screenReaderInstructions: { draggable: "Press Enter to open the drill. Its day can be changed there." } };

function iso(day: Date): string {
  return `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;
}

/** The weeks of a plan, each from Monday to Sunday; days outside of it are null. */
export function weeksOf({ start, until }: { start: string; until: string }): (string | null)[][] {
  const first = new Date(`${start}T12:00`);
  const monday = new Date(first.getTime() - ((first.getDay() + 6) % 7) * DAY_MS);
  const weeks: (string | null)[][] = [];
  for (let day = monday; iso(day) < until; day = new Date(day.getTime() + 7 * DAY_MS)) {
    const days = Array.from({ length: 7 }, (_, number) => iso(new Date(day.getTime() + number * DAY_MS)));
    weeks.push(days.map((one) => (start <= one && one < until ? one : null)));
  }
  return weeks;
}

/** A plan week by week; drills are dragged from day to day, and opened by a click or Enter. */
export function Board({
  plan,
  move,
  open,
}: {
  plan: PlanOfAthlete;
  move: (planned: number, day: string) => void;
  open: (planned: PlannedDrill, day: string) => void;
}) {
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: CLICK_PX } }),
    useSensor(TouchSensor, { activationConstraint: { delay: HELD_MS, tolerance: CLICK_PX } }),
  );
  const on = new Map(plan.days.map((one) => [one.day, one.planned]));
  const dropped = ({ active, over }: DragEndEvent) => {
    const from = plan.days.find((one) => one.planned.some((each) => each.id === active.id))?.day;
    if (over && over.id !== from) move(Number(active.id), String(over.id));
  };
  return (
    <DndContext sensors={sensors} accessibility={SAID} onDragEnd={dropped}>
      <div className="flex flex-col gap-3">
        {weeksOf(plan).map((week) => (
          <div key={week.find(Boolean)} className="grid gap-1.5 sm:grid-cols-7">
            {week.map((day, number) =>
              day === null ? (
                <span key={number} className="max-sm:hidden" />
              ) : (
                <Day key={day} day={day} planned={on.get(day) ?? []} open={(one) => open(one, day)} />
              ),
            )}
          </div>
        ))}
      </div>
    </DndContext>
  );
}

function Day({ day, planned, open }: { day: string; planned: PlannedDrill[]; open: (one: PlannedDrill) => void }) {
  const { setNodeRef, isOver } = useDroppable({ id: day });
  const minutes = planned.reduce((sum, one) => sum + one.minutes, 0);
  return (
    <section
      ref={setNodeRef}
      aria-label={weekdayOf(day)}
      className={`min-h-11 border-t-2 p-1.5 sm:min-h-24 ${isOver ? "border-amber-deep bg-amber-pale" : "border-rule bg-sheet"}`}
    >
      <p className="flex justify-between text-[14px] text-slate">
        {SHORT.format(new Date(`${day}T12:00`))} {minutes > 0 && <span>{minutes} min</span>}
      </p>
      {planned.map((one) => (
        <Chip key={one.id} one={one} open={() => open(one)} />
      ))}
    </section>
  );
}

function Chip({ one, open }: { one: PlannedDrill; open: () => void }) {
  const { setNodeRef, listeners, attributes, transform, isDragging } = useDraggable({ id: one.id });
  const moved = transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : {};
  return (
    <button
      ref={setNodeRef}
      type="button"
      style={moved}
      {...listeners}
      {...attributes}
      aria-label={`${one.name}${one.done ? ", done" : ""}`}
      onClick={open}
      className={`mt-1 block w-full border-l-4 px-1.5 py-0.5 text-left text-[14px] leading-tight ${one.done ? "border-slate bg-rule text-slate line-through" : "border-amber-deep bg-amber-pale"} ${isDragging ? "relative z-10 shadow-lg" : ""}`}
    >
      {one.name}
    </button>
  );
}

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type NewNote, type Note, ok, type PictureMark, type Review } from "../api/client";
import { Problem } from "../components/Problem";
import { footage } from "../components/words";
import type { Tool } from "./Player";

const TOOLS: Record<Tool, string> = { point: "Point", arrow: "Arrow", text: "Short text" };

/** Notes on moments of the footage, and making one: words, a span, marks in the picture. */
export function Notes({
  review,
  notes,
  t,
  show,
  tool,
  setTool,
  marks,
  setMarks,
}: {
  review: Review;
  notes: Note[];
  t: number;
  show: (t: number, end?: number) => void;
  tool: Tool | null;
  setTool: (tool: Tool | null) => void;
  marks: PictureMark[];
  setMarks: (marks: PictureMark[]) => void;
}) {
  const queries = useQueryClient();
  const id = review.match.id;
  const [changing, setChanging] = useState<Note | null>(null);
  const [text, setText] = useState("");
  const [span, setSpan] = useState(false);
  const [from, setFrom] = useState<number | null>(null);
  const start = from ?? changing?.t ?? t;
  const settle = () => {
    setChanging(null);
    setText("");
    setSpan(false);
    setFrom(null);
    setMarks([]);
    setTool(null);
    return queries.invalidateQueries({ queryKey: ["notes", id] });
  };
  const keep = useMutation({
    mutationFn: (body: NewNote) =>
      changing
        ? ok(api.PUT("/api/matches/{match}/notes/{note}", { params: { path: { match: id, note: changing.id } }, body }))
        : ok(api.POST("/api/matches/{match}/notes", { params: { path: { match: id } }, body })),
    onSuccess: settle,
  });
  const remove = useMutation({
    mutationFn: (note: number) => ok(api.DELETE("/api/matches/{match}/notes/{note}", { params: { path: { match: id, note } } })),
    onSuccess: settle,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep.mutate({
      t: Math.round(start * 1000) / 1000,
      until: span && t > start ? Math.round(t * 1000) / 1000 : null,
      text,
      marks,
    });
  };
  const change = (note: Note) => {
    setChanging(note);
    setText(note.text ?? "");
    setMarks(note.marks ?? []);
    setSpan(note.until != null);
    setFrom(note.t);
    show(note.t, note.t);
  };
  return (
    <div>
      <p className="max-w-prose pb-3 text-slate">
        Pause the picture where something is to be seen, say it, and mark the place. A note shows itself whenever that moment is played, and
        its words go into the report.
      </p>
      <form onSubmit={submit} className="grid gap-3 border-t-2 border-rule py-3">
        <label>
          <span className="mb-1 block font-semibold">
            {changing ? `The note at ${footage(changing.t)}` : `A note at ${footage(start)} of the footage`}
          </span>
          <textarea className="field" rows={2} maxLength={600} value={text} onChange={(event) => setText(event.target.value)} />
        </label>
        <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
          <span>Mark in the picture</span>
          {(Object.keys(TOOLS) as Tool[]).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={tool === one}
              className={tool === one ? "border-b-[3px] border-amber-deep font-semibold" : "quiet"}
              onClick={() => setTool(tool === one ? null : one)}
            >
              {TOOLS[one]}
            </button>
          ))}
          {marks.length > 0 && (
            <button type="button" className="quiet" onClick={() => setMarks(marks.slice(0, -1))}>
              Take the last mark back
            </button>
          )}
        </div>
        {tool && <p className="text-slate">{tool === "arrow" ? "Drag in the picture, from where to where." : "Click in the picture."}</p>}
        {marks.map(
          (mark, index) =>
            mark.kind === "text" && (
              <label key={index} className="max-w-xs">
                <span className="mb-1 block text-[15px]">Text in the picture</span>
                <input
                  className="field"
                  maxLength={60}
                  required
                  value={mark.text ?? ""}
                  onChange={(event) => setMarks(marks.map((one, at) => (at === index ? { ...one, text: event.target.value } : one)))}
                />
              </label>
            ),
        )}
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={span}
            onChange={(event) => {
              setSpan(event.target.checked);
              setFrom(event.target.checked ? start : (changing?.t ?? null));
            }}
            className="h-4 w-4 accent-amber-deep"
          />
          {span
            ? `A span, from ${footage(start)} to where the footage is now (${footage(t)})`
            : "Let it last: from here to where I go next"}
        </label>
        <span className="flex gap-5">
          <button type="submit" className="act" disabled={keep.isPending}>
            Keep the note
          </button>
          {(changing || text || marks.length > 0) && (
            <button type="button" className="quiet" onClick={() => void settle()}>
              Leave it
            </button>
          )}
        </span>
        <Problem error={keep.error ?? remove.error} />
      </form>
      <ul aria-label="Notes">
        {notes.map((note) => (
          <li key={note.id} className="flex flex-wrap items-baseline gap-x-4 border-t border-rule py-2">
            <b>
              {footage(note.t)}
              {note.until != null && ` to ${footage(note.until)}`}
            </b>
            <span className="min-w-0 flex-1">
              {note.text}
              {(note.marks?.length ?? 0) > 0 && <span className="text-slate"> ({note.marks?.length} marked)</span>}
            </span>
            <button type="button" className="quiet" onClick={() => show(note.t, note.until ?? note.t)}>
              Show it
            </button>
            <button type="button" className="quiet" onClick={() => change(note)}>
              Change
            </button>
            <button type="button" className="quiet" onClick={() => remove.mutate(note.id)}>
              Delete
            </button>
          </li>
        ))}
      </ul>
      {notes.length === 0 && <p className="text-slate">No notes yet.</p>}
    </div>
  );
}

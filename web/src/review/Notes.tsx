import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useState } from "react";
import { api, type NewNote, type Note, ok, type PictureMark, type Review } from "../api/client";
import { Problem } from "../components/Problem";
import { footage } from "../components/words";
import type { Tool } from "./Player";

const TOOLS: Record<Tool, string> = { point: "Point", arrow: "Arrow", text: "Short text" };

/** A note that is being written. */
interface Draft {
  /** The one that is changed; null for a new one. */
  note: Note | null;
  text: string;
  /** Whether it lasts, and from when; null: from where the footage is. */
  lasts: boolean;
  from: number | null;
}

const EMPTY: Draft = { note: null, text: "", lasts: false, from: null };

interface Props {
  review: Review;
  notes: Note[];
  t: number;
  show: (t: number, end?: number) => void;
  tool: Tool | null;
  setTool: (tool: Tool | null) => void;
  marks: PictureMark[];
  setMarks: (marks: PictureMark[]) => void;
}

/** Notes on moments of the footage, and making one: words, a span, marks in the picture. */
export function Notes(props: Props) {
  const { review, notes, show, setTool, setMarks } = props;
  const queries = useQueryClient();
  const id = review.match.id;
  const [draft, setDraft] = useState(EMPTY);
  const settle = () => {
    setDraft(EMPTY);
    setMarks([]);
    setTool(null);
    return queries.invalidateQueries({ queryKey: ["notes", id] });
  };
  const keep = useMutation({
    mutationFn: (body: NewNote) =>
      draft.note
        ? ok(api.PUT("/api/matches/{match}/notes/{note}", { params: { path: { match: id, note: draft.note.id } }, body }))
        : ok(api.POST("/api/matches/{match}/notes", { params: { path: { match: id } }, body })),
    onSuccess: settle,
  });
  const remove = useMutation({
    mutationFn: (note: number) => ok(api.DELETE("/api/matches/{match}/notes/{note}", { params: { path: { match: id, note } } })),
    onSuccess: settle,
  });
  const change = (note: Note) => {
    setDraft({ note, text: note.text ?? "", lasts: note.until != null, from: note.t });
    setMarks(note.marks ?? []);
    show(note.t, note.t);
  };
  return (
    <div>
      <p className="max-w-prose pb-3 text-slate">
        Pause where there is something to see, write a note and mark the spot. The note appears whenever that moment plays, and its text
        goes into the report.
      </p>
      <NoteForm {...props} draft={draft} set={setDraft} busy={keep.isPending} keep={keep.mutate} leave={() => void settle()}>
        <Problem error={keep.error ?? remove.error} />
      </NoteForm>
      <ul aria-label="Notes">
        {notes.map((note) => (
          <NoteRow key={note.id} note={note} show={show} change={() => change(note)} remove={() => remove.mutate(note.id)} />
        ))}
      </ul>
      {notes.length === 0 && <p className="text-slate">No notes yet.</p>}
    </div>
  );
}

function NoteForm({
  t,
  tool,
  setTool,
  marks,
  setMarks,
  draft,
  set,
  busy,
  keep,
  leave,
  children,
}: Props & {
  draft: Draft;
  set: (draft: Draft) => void;
  busy: boolean;
  keep: (body: NewNote) => void;
  leave: () => void;
  children: ReactNode;
}) {
  const { note, text, lasts } = draft;
  const start = draft.from ?? note?.t ?? t;
  const millis = (seconds: number) => Math.round(seconds * 1000) / 1000;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep({ t: millis(start), until: lasts && t > start ? millis(t) : null, text, marks });
  };
  return (
    <form onSubmit={submit} className="grid gap-3 border-t-2 border-rule py-3">
      <Words
        title={note ? `The note at ${footage(note.t)}` : `A note at ${footage(start)} of the footage`}
        text={text}
        set={(next) => set({ ...draft, text: next })}
      />
      <Marking tool={tool} setTool={setTool} marks={marks} setMarks={setMarks} />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={lasts}
          onChange={(event) => set({ ...draft, lasts: event.target.checked, from: event.target.checked ? start : (note?.t ?? null) })}
          className="h-4 w-4 accent-amber-deep"
        />
        {lasts ? `From ${footage(start)} to the current moment (${footage(t)})` : "Show it over a stretch, from here to where I stop"}
      </label>
      <span className="flex gap-5">
        <button type="submit" className="act" disabled={busy}>
          Save the note
        </button>
        {(note || text || marks.length > 0) && (
          <button type="button" className="quiet" onClick={leave}>
            Cancel
          </button>
        )}
      </span>
      {children}
    </form>
  );
}

function Words({ title, text, set }: { title: string; text: string; set: (text: string) => void }) {
  return (
    <label>
      <span className="mb-1 block font-semibold">{title}</span>
      <textarea className="field" rows={2} maxLength={600} value={text} onChange={(event) => set(event.target.value)} />
    </label>
  );
}

/** Marks in the picture: what the next click or drag makes, and the words of those that have some. */
function Marking({ tool, setTool, marks, setMarks }: Pick<Props, "tool" | "setTool" | "marks" | "setMarks">) {
  return (
    <>
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
            Undo last mark
          </button>
        )}
      </div>
      {tool && <p className="text-slate">{tool === "arrow" ? "Drag across the picture to draw the arrow." : "Click in the picture."}</p>}
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
    </>
  );
}

function NoteRow({
  note,
  show,
  change,
  remove,
}: {
  note: Note;
  show: (t: number, end?: number) => void;
  change: () => void;
  remove: () => void;
}) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-t border-rule py-2">
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
      <button type="button" className="quiet" onClick={change}>
        Change
      </button>
      <button type="button" className="quiet" onClick={remove}>
        Delete
      </button>
    </li>
  );
}

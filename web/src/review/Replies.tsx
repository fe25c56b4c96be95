import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ok, type Report, type Review } from "../api/client";
import { Problem } from "../components/Problem";

type Answer = Report["answers"][number];

/** What was written back on the report, each with what the coach answers to it. */
export function Replies({ review, report }: { review: Review; report: Report }) {
  const queries = useQueryClient();
  const { id, athlete_name } = review.match;
  const reply = useMutation({
    mutationFn: ({ answer, text }: { answer: number; text: string }) =>
      ok(api.PUT("/api/matches/{match}/answers/{answer}", { params: { path: { match: id, answer } }, body: { reply: text } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["report", id] }),
  });
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">What {athlete_name} wrote back</h2>
      <ul>
        {report.answers.map((answer) => (
          <li key={answer.id} className="border-b border-rule py-2">
            <About answer={answer} review={review} />
            {answer.text}
            <OneReply answer={answer} send={(text) => reply.mutateAsync({ answer: answer.id, text })} />
          </li>
        ))}
      </ul>
      <Problem error={reply.error} />
    </section>
  );
}

function About({ answer, review }: { answer: Answer; review: Review }) {
  const about = review.found.find((error) => error.key === answer.key);
  return about && <span className="block text-[15px] text-slate">on {about.title}</span>;
}

function OneReply({ answer, send }: { answer: Answer; send: (text: string) => Promise<unknown> }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState(answer.reply);
  if (!open) {
    return (
      <p className="flex flex-wrap items-baseline gap-x-4 border-l-4 border-amber pl-3">
        {answer.reply && <span>You: {answer.reply}</span>}
        <button type="button" className="quiet text-[15px]" onClick={() => setOpen(true)}>
          {answer.reply ? "Change" : "Answer"}
          <span className="sr-only">: {answer.text}</span>
        </button>
      </p>
    );
  }
  return (
    <form
      className="flex flex-col items-start gap-2 pt-1"
      onSubmit={(event) => {
        event.preventDefault();
        void send(text)
          .then(() => setOpen(false))
          .catch(() => undefined);
      }}
    >
      <textarea
        className="field"
        rows={2}
        maxLength={600}
        aria-label={`Your answer to: ${answer.text}`}
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <span className="flex gap-4">
        <button type="submit" className="act py-1!">
          Save
        </button>
        <button type="button" className="quiet" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </span>
    </form>
  );
}

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Item, ok, type Stand } from "../api/client";
import { useAthletes } from "../api/athletes";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { named } from "../components/words";
import { type Asked, useAsked } from "../components/asked";
import { DivisionPicker } from "./DivisionPicker";

const TOPIC_WORDS: Record<Item["topic"], string> = {
  legality: "What is legal",
  pays: "What a sequence scores",
  why: "Why it did not score",
};
type Topic = Item["topic"] | "";

/** The question that is next for somebody, and the answer given to it. */
function useDrill(asked: Asked, topic: Topic, who: number | null, round: number, ready: boolean) {
  const queries = useQueryClient();
  const item = useQuery({
    queryKey: ["drill", asked, topic, who, round],
    queryFn: () =>
      ok(
        api.GET("/api/drill", {
          params: { query: { ...asked, ...(topic ? { topic } : {}), ...(who === null ? {} : { who }) } },
        }),
      ),
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
    enabled: ready,
  });
  const answer = useMutation({
    mutationFn: ({ of, choice }: { of: Item; choice: number }) =>
      ok(api.POST("/api/drill", { params: { query: asked }, body: { key: of.key, seed: of.seed, choice, who } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["drill-progress"] }),
  });
  return { item, answer };
}

/** Questions on the rules of a division; what was answered wrong comes back, what is known comes later and later. */
export function DrillPage() {
  const [asked, set] = useAsked();
  const athletes = useAthletes();
  const who = athletes.data?.find((one) => one.name === asked.athlete)?.id ?? null;
  const [topic, setTopic] = useState<Topic>("");
  const [round, setRound] = useState(0);
  const { item, answer } = useDrill(asked, topic, who, round, athletes.isSuccess);
  const next = () => {
    answer.reset();
    setRound((now) => now + 1);
  };
  return (
    <PaperPage title="Drill">
      <DivisionPicker
        asked={asked}
        set={(change) => {
          answer.reset();
          set(change);
        }}
        name="Division"
      />
      <p className="pt-3 text-slate">
        {asked.athlete ? `Practising as ${asked.athlete}.` : "Practising as yourself. Choose an athlete to track their answers separately."}
      </p>
      <Topics
        topic={topic}
        choose={(one) => {
          answer.reset();
          setTopic(one);
        }}
      />
      <Problem error={item.error ?? answer.error} />
      {item.data && (
        <Question
          key={`${item.data.key}-${item.data.seed}`}
          item={item.data}
          busy={answer.isPending}
          answer={answer.data ?? null}
          chosen={answer.variables?.choice ?? null}
          choose={(choice) => answer.mutate({ of: item.data, choice })}
          next={next}
        />
      )}
      <p className="mt-4 border-l-4 border-amber-deep pl-3">
        The event&rsquo;s own rulebook, its referees and its medical staff decide. On the mat: tap early, let go at the tap, stop on the
        referee&rsquo;s word.
      </p>
      <Progress />
    </PaperPage>
  );
}

function Topics({ topic, choose }: { topic: Topic; choose: (topic: Topic) => void }) {
  return (
    <div role="group" aria-label="Topic" className="flex flex-wrap gap-5 pt-3 pb-5">
      {(["", "legality", "pays", "why"] as Topic[]).map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={topic === one}
          onClick={() => choose(one)}
          className={`border-b-[3px] ${topic === one ? "border-amber-deep font-semibold" : "border-transparent hover:border-rule"}`}
        >
          {one ? TOPIC_WORDS[one] : "Everything"}
        </button>
      ))}
    </div>
  );
}

const PLAIN_NAMES = { athlete_name: "Amber", opponent: "Blue" };

/** What happened, line by line, with the colours of the two. */
function Sequence({ lines }: { lines: string[] }) {
  return (
    <>
      <p aria-hidden className="flex items-center gap-2 pt-1 text-[15px]">
        <span className="h-3.5 w-3.5 bg-amber" /> Amber <span className="ml-3 h-3.5 w-3.5 bg-sea" /> Blue
      </p>
      <ul className="py-2">
        {lines.map((line) => (
          <li key={line} className="whitespace-pre-wrap">
            {named(line, PLAIN_NAMES)}
          </li>
        ))}
      </ul>
    </>
  );
}

function Question({
  item,
  answer,
  chosen,
  busy,
  choose,
  next,
}: {
  item: Item;
  answer: { right: number; because: string; due: string } | null;
  chosen: number | null;
  busy: boolean;
  choose: (choice: number) => void;
  next: () => void;
}) {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if ((event.target as HTMLElement).closest("input, select, textarea")) return;
      const choice = Number(event.key) - 1;
      if (!answer && !busy && item.options[choice] !== undefined) choose(choice);
      if (answer && event.key === "Enter" && !(event.target as HTMLElement).closest("button, a")) next();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  });
  const right = answer !== null && answer.right === chosen;
  return (
    <section aria-label="Question" className="border-t-4 border-amber-deep bg-sheet px-6 py-5" data-testid="question">
      <p className="text-[15px] text-slate">
        {TOPIC_WORDS[item.topic]}
        {item.again && " (asked before)"}
      </p>
      {item.lines.length > 0 && <Sequence lines={item.lines} />}
      <h2 className="pb-3 text-xl font-semibold">
        {named(item.question, PLAIN_NAMES)}
        {item.topic === "pays" && <span className="font-sans text-base font-normal text-slate"> Amber first, then Blue</span>}
      </h2>
      <Options item={item} right={answer?.right ?? null} chosen={chosen} busy={busy} choose={choose} />
      {answer && (
        <div role="status" className="pt-4">
          <p>
            <b>{right ? "Right." : "No."}</b> {named(answer.because, PLAIN_NAMES)}
          </p>
          <p className="text-slate">You will be asked this again {when(answer.due)}.</p>
          <button type="button" className="act mt-3" onClick={next}>
            Next <span className="key">⏎</span>
          </button>
        </div>
      )}
    </section>
  );
}

/** The answers to choose from; once one is chosen, which is right. */
function Options({
  item,
  right,
  chosen,
  busy,
  choose,
}: {
  item: Item;
  right: number | null;
  chosen: number | null;
  busy: boolean;
  choose: (choice: number) => void;
}) {
  return (
    <ol className="flex flex-col gap-2">
      {item.options.map((option, index) => {
        const isRight = right === index;
        const isWrong = right !== null && chosen === index && !isRight;
        return (
          <li key={option}>
            <button
              type="button"
              disabled={right !== null || busy}
              onClick={() => choose(index)}
              className={`flex w-full items-baseline gap-3 border-2 px-3 py-2 text-left text-ink ${isRight ? "border-ink bg-amber-pale font-semibold" : isWrong ? "border-alarm" : "border-rule enabled:hover:border-ink"}`}
            >
              <span className="key">{index + 1}</span>
              {option}
              {isRight && <span className="ml-auto">right</span>}
              {isWrong && <span className="ml-auto">your answer</span>}
            </button>
          </li>
        );
      })}
    </ol>
  );
}

function when(due: string): string {
  const minutes = Math.max(1, Math.round((new Date(due).getTime() - Date.now()) / 60_000));
  if (minutes < 60) return minutes === 1 ? "in a minute" : `in ${minutes} minutes`;
  const days = Math.round(minutes / 1440);
  return days < 1 ? "today" : days === 1 ? "tomorrow" : `in ${days} days`;
}

/** Progress, topic by topic. */
function Progress() {
  const progress = useQuery({ queryKey: ["drill-progress"], queryFn: () => ok(api.GET("/api/drill/progress")) });
  if (!progress.data?.length) return null;
  return (
    <section className="pt-10">
      <h2 className="pb-2 text-2xl font-semibold">Progress</h2>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse">
          <thead>
            <tr className="border-b-2 border-rule text-left">
              {["Who", "Topic", "Right", "Wrong", "Questions", "Due now"].map((title) => (
                <th key={title} scope="col" className="py-1 pr-6">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {progress.data.map((row: Stand) => (
              <tr key={`${row.athlete}-${row.topic}`} className="border-b border-rule">
                <th scope="row" className="py-1 pr-6 text-left font-normal">
                  {row.name ?? "You"}
                </th>
                <td className="pr-6">{TOPIC_WORDS[row.topic]}</td>
                <td className="pr-6">{row.right}</td>
                <td className="pr-6">{row.wrong}</td>
                <td className="pr-6">{row.asked}</td>
                <td>{row.due}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

import { useState } from "react";
import { PaperPage } from "../components/PaperPage";
import { SPORT } from "./sport";

/** The words of the sport, to look one up. */
export function WordsPage() {
  const [typed, setTyped] = useState("");
  const sought = typed.trim().toLowerCase();
  const groups = SPORT.map(({ title, words }) => ({
    title,
    words: words.filter(({ word, meaning }) => `${word} ${meaning}`.toLowerCase().includes(sought)),
  })).filter(({ words }) => words.length > 0);
  return (
    <PaperPage title="Words of the sport">
      <p className="max-w-prose pb-4">
        What the words on these pages mean. The event&rsquo;s own rulebook says what counts at an event; its referees decide.
      </p>
      <input
        type="search"
        className="field mb-4 max-w-sm"
        aria-label="Search the words"
        placeholder="Search"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      {groups.length === 0 && <p>No word like that. The rulebook has every technique by name.</p>}
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-2">
        {groups.map(({ title, words }) => (
          <section key={title}>
            <h2 className="border-b-2 border-rule pb-1 text-2xl font-semibold">{title}</h2>
            <dl>
              {words.map(({ word, meaning }) => (
                <div key={word} className="border-b border-rule py-1.5">
                  <dt className="font-semibold">{word}</dt>
                  <dd>{meaning}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </PaperPage>
  );
}

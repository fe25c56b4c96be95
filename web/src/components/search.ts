import Fuse from "fuse.js";

/** Something with names to be found by. */
export interface Nameable {
  id: string;
  name: string;
  aliases: string[];
}

/** A name as it is compared while typing: without case, accents or marks. */
export function plain(name: string): string {
  return name
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^a-z0-9]/g, "");
}

type Order<T> = (one: T, other: T) => number;

function rounded(hit: { score?: number }): number {
  return Math.round((hit.score ?? 1) * 10);
}

/** A technique: words such as "leg lock" may mean it, without being a name of it. */
interface InFamily extends Nameable {
  meant_by: string[];
  status: string;
}

export const barredFirst = (one: { status: string }, other: { status: string }) =>
  Number(one.status === "legal") - Number(other.status === "legal");

/** Those that a word for a whole family, or its plural, may mean: what is barred comes first. */
export function familyOf<T extends InFamily>(all: T[], text: string): T[] {
  const typed = plain(text);
  const means = ({ meant_by: words }: T) => words.map(plain).some((word) => typed === word || typed === `${word}s`);
  return all.filter(means).sort(barredFirst);
}

/**
 * Finds by any name, alias or misspelling: what is called so, then what begins so, then
 * what has it inside, then what is spelled alike. `prefer` orders what is equally near, `misspelt` what is spelled alike.
 */
export function searcher<T extends Nameable>(all: T[]): (typed: string, most: number, prefer?: Order<T>, misspelt?: Order<T>) => T[] {
  const names = all.map((one) => ({ one, keys: [one.name, one.id, ...one.aliases].map(plain) }));
  const fuzzy = new Fuse(names, {
    keys: ["keys"],
    threshold: 0.4,
    ignoreLocation: true,
    includeScore: true,
    minMatchCharLength: 2,
  });
  const rank = (keys: string[], typed: string) =>
    Math.min(...keys.map((key) => (key === typed ? 0 : key.startsWith(typed) ? 1 : key.includes(typed) ? 2 : 9)));
  return (text, most, prefer = () => 0, misspelt = () => 0) => {
    const typed = plain(text);
    const spelled = names
      .map(({ one, keys }) => ({ one, rank: rank(keys, typed) }))
      .filter((row) => row.rank < 9)
      .sort((row, other) => row.rank - other.rank || prefer(row.one, other.one) || row.one.name.length - other.one.name.length)
      .map((row) => row.one);
    const near = spelled.length < most ? fuzzy.search(typed, { limit: 4 * most }) : [];
    const alike = near
      .sort(
        (hit, other) =>
          rounded(hit) - rounded(other) || misspelt(hit.item.one, other.item.one) || hit.item.one.name.length - other.item.one.name.length,
      )
      .map((hit) => hit.item.one);
    return [...new Set([...spelled, ...alike])].slice(0, most);
  };
}

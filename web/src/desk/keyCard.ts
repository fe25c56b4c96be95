import { api, ok } from "../api/client";
import { FIXED, GROUPS, keyOf, LETTERS, type OwnKeys } from "./keys";

type Group = keyof typeof GROUPS;

/** The keys of the desk as a card has them: the letters as the coach has them, and those that stay. */
export function sectionsOf(own: OwnKeys) {
  const letters = (Object.keys(GROUPS) as Group[]).map((group) => ({
    title: GROUPS[group],
    rows: LETTERS.filter((one) => one.group === group).map((one) => ({ keys: keyOf(one.name, own).toUpperCase(), words: one.words })),
  }));
  const fixed = Object.values(FIXED).map(({ title, rows }) => ({ title, rows: rows.map(([keys, words]) => ({ keys, words })) }));
  return [...letters, ...fixed];
}

/** Open the key card as PDF in a new tab. */
export async function openKeyCard(own: OwnKeys): Promise<void> {
  const card = await ok(api.POST("/api/key-card", { body: { sections: sectionsOf(own) }, parseAs: "blob" }));
  const address = URL.createObjectURL(card as unknown as Blob);
  const link = Object.assign(document.createElement("a"), {
    href: address,
    target: "_blank",
    rel: "noreferrer",
    download: "jurata-keys.pdf",
  });
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}

import { useEffect, useEffectEvent, useState } from "react";
import type { Showing } from "./ErrorList";
import { type Chain, useDecideChain, useRemark } from "./useReview";

/** Going through the list by keys: what is at hand, and what can be done with it. */
export interface Going {
  /** The key of the root that is at hand. */
  at: string | null;
  set: (root: string) => void;
  accept: (chain: Chain) => void;
  dismiss: (chain: Chain) => void;
  undo: () => void;
  canUndo: boolean;
  /** What was done last, in words. */
  said: string;
  error: unknown;
}

interface Done {
  key: string;
  what: "accepted" | "dismissed";
  title: string;
}

interface Props extends Showing {
  chains: Chain[];
  /** Show all chains, or only what mattered most. */
  toggleAll: () => void;
}

/** Whether a key press belongs to what has the focus: a field, or a dialog. */
function taken(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return event.ctrlKey || event.metaKey || event.altKey || target.closest("input, textarea, select, [role=dialog]") !== null;
}

/** Accepting and dismissing chains, and taking the last of it back. */
function useDecisions(match: string) {
  const remark = useRemark(match);
  const decide = useDecideChain(match);
  const [done, setDone] = useState<Done | null>(null);
  const accept = (chain: Chain) => {
    const { key, title } = chain.root;
    decide.mutate({ root: key, accepted: !chain.accepted });
    setDone(chain.accepted ? null : { key, what: "accepted", title });
  };
  const dismiss = (chain: Chain) => {
    const { key, title, own } = chain.root;
    remark.mutate({ key, said: own ? null : { standing: "dismissed" } });
    setDone(own ? null : { key, what: "dismissed", title });
  };
  const undo = () => {
    if (done?.what === "accepted") decide.mutate({ root: done.key, accepted: false });
    else if (done) remark.mutate({ key: done.key, said: { standing: "open" } });
    setDone(null);
    return done?.key ?? null;
  };
  return { accept, dismiss, undo, done, error: remark.error ?? decide.error };
}

export function useGoingThrough({ review, chains, show, chosen, choose, clip, toggleAll }: Props): Going {
  const decisions = useDecisions(review.match.id);
  const [wanted, setWanted] = useState<string | null>(null);
  const index = Math.max(
    0,
    chains.findIndex((chain) => chain.root.key === wanted),
  );
  const chain = chains[index];
  const go = (to: number) => {
    const next = chains[Math.min(Math.max(0, to), chains.length - 1)];
    if (!next) return;
    setWanted(next.root.key);
    document.getElementById(`chain-${next.root.key}`)?.focus();
  };
  const dismiss = (one: Chain) => {
    const next = chains[chains.indexOf(one) + 1] ?? chains[chains.indexOf(one) - 1];
    decisions.dismiss(one);
    choose(null);
    if (next) setWanted(next.root.key);
  };
  const undo = () => setWanted(decisions.undo() ?? wanted);
  const press = useEffectEvent((event: KeyboardEvent) => {
    if (taken(event)) return;
    const actions: Record<string, (() => void) | undefined> = {
      j: () => go(wanted === null ? 0 : index + 1),
      k: () => go(index - 1),
      m: toggleAll,
      z: undo,
      p: clip && chain ? () => show(chain.root.start, chain.root.end) : undefined,
      e: chain && (() => choose(chosen === chain.root.key ? null : chain.root.key)),
      a: chain && (() => decisions.accept(chain)),
      x: chain && (() => dismiss(chain)),
    };
    const act = actions[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  });
  useEffect(() => {
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  const { done, error, accept } = decisions;
  const said = done && `${done.what === "accepted" ? "In the report" : "Dismissed"}: ${done.title}.`;
  const at = wanted === null ? null : (chain?.root.key ?? null);
  return { at, set: setWanted, accept, dismiss, undo, canUndo: done !== null, said: said ?? "", error };
}

import { useQuery } from "@tanstack/react-query";
import { api, ok } from "./client";

export function useRulesets() {
  return useQuery({ queryKey: ["rulesets"], queryFn: () => ok(api.GET("/api/rulesets")), staleTime: Infinity });
}

export function useHouseRules() {
  return useQuery({ queryKey: ["house-rules"], queryFn: () => ok(api.GET("/api/house-rules")) });
}

/** What a match can be scored by: the presets, and the latest version of each house rules; a choice is an id or JSON. */
export function useRulesetChoices(): { value: string; title: string; about: string }[] {
  const presets = useRulesets().data ?? [];
  const house = useHouseRules().data ?? [];
  const latest = house.filter((one) => !house.some((other) => other.family === one.family && other.version > one.version));
  return [
    ...presets.map(({ id, title, about }) => ({ value: id, title, about })),
    ...latest.map((one) => ({
      value: JSON.stringify(one.body),
      title: `${one.title}, version ${one.version}`,
      about: one.note,
    })),
  ];
}

/** The ruleset that a choice stands for, as a match takes it. */
export function rulesetOf(choice: string): unknown {
  return choice.startsWith("{") ? JSON.parse(choice) : choice;
}

/** The choice that stands for the ruleset of a match. */
export function choiceOf(ruleset: unknown): string {
  return typeof ruleset === "string" ? ruleset : JSON.stringify(ruleset);
}

import type { ReactNode } from "react";
import { useDoing } from "../components/useDoing";

/** One thing that can be set in the account. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-t-2 border-rule pt-3">
      <h2 className="mb-3 font-serif text-xl font-semibold">{title}</h2>
      <div className="flex flex-col gap-3">{children}</div>
    </section>
  );
}

/** What is done to the account, after which one of its queries is asked again. */
export function useChange<T>(query: string, act: (said: T) => Promise<unknown>) {
  return useDoing(["account", query], act);
}

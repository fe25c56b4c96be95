import type { ReactNode } from "react";
import { NavLink } from "react-router";
import { useSession, useSignOut } from "../api/session";
import { Help } from "./Help";

const link = ({ isActive }: { isActive: boolean }) =>
  `border-b-[3px] pb-0.5 ${isActive ? "border-amber-deep font-semibold" : "border-transparent hover:border-rule"}`;

/** A light page for everything that is read or filled in; the desk alone is dark. */
export function PaperPage({ title, aside, children }: { title: string; aside?: ReactNode; children: ReactNode }) {
  const session = useSession();
  const signOut = useSignOut();
  return (
    <div className="paper mx-auto flex min-h-screen max-w-6xl flex-col px-4 pb-12 sm:px-8">
      <header className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b-2 border-rule py-3">
        <Brand />
        <nav className="flex gap-5">
          <NavLink to="/" end className={link}>
            Matches
          </NavLink>
          <NavLink to="/athletes" className={link}>
            Athletes
          </NavLink>
          <NavLink to="/rulebook" className={link}>
            Rulebook
          </NavLink>
        </nav>
        <span className="ml-auto flex items-center gap-4">
          <Help />
          <span className="text-slate">{session.data?.name}</span>
          <button type="button" className="quiet" onClick={() => signOut.mutate()}>
            Sign out
          </button>
        </span>
      </header>
      <main className="flex-1">
        <div className="flex flex-wrap items-end justify-between gap-4 pt-7 pb-5">
          <h1 className="text-[34px] leading-tight font-semibold">{title}</h1>
          {aside}
        </div>
        {children}
      </main>
    </div>
  );
}

export function Brand({ dark = false }: { dark?: boolean }) {
  return (
    <span className={`flex items-center gap-2 font-serif text-xl font-semibold ${dark ? "text-bone" : "text-ink"}`}>
      <img src="/static/mark.svg" alt="" width={24} height={24} />
      Jurata
    </span>
  );
}

import type { ReactNode } from "react";
import { Link, NavLink, useLocation } from "react-router";
import { useChooseClub, useMay, useSession, useSignOut } from "../api/session";
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
        <Nav />
        <span className="ml-auto flex items-baseline gap-4">
          <Help />
          <ClubChoice />
          <Notices />
          <Link className="text-slate hover:underline" to="/account" title="Your account">
            {session.data?.name}
          </Link>
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

function Nav() {
  const staff = useMay("set_up");
  const scoring = useMay("list");
  const own = useMay("own");
  const ofSeason = /^\/(drills|days)/.test(useLocation().pathname);
  return (
    <nav className="flex flex-wrap gap-x-5">
      {scoring && (
        <NavLink to="/" end className={link}>
          Matches
        </NavLink>
      )}
      {own && (
        <NavLink to="/own" className={link}>
          Reports
        </NavLink>
      )}
      {staff && (
        <NavLink to="/athletes" className={link}>
          Athletes
        </NavLink>
      )}
      {staff && (
        <NavLink to="/season" className={(state) => link({ isActive: state.isActive || ofSeason })}>
          Season
        </NavLink>
      )}
      <NavLink to="/rulebook" className={link}>
        Rulebook
      </NavLink>
      {staff && (
        <NavLink to="/club" className={link}>
          Club
        </NavLink>
      )}
    </nav>
  );
}

const LOOK_EVERY_MS = 60_000;

function Notices() {
  const unread = useSession(LOOK_EVERY_MS).data?.unread ?? 0;
  return (
    <NavLink to="/notices" className={link} aria-label={unread === 1 ? "1 new notice" : `Notices, ${unread} new`}>
      Notices{unread > 0 && <b className="ml-1.5 bg-amber px-1.5 text-ink">{unread}</b>}
    </NavLink>
  );
}

/** For who is in several clubs: where they work now. */
function ClubChoice() {
  const clubs = useSession().data?.clubs ?? [];
  const choose = useChooseClub();
  if (clubs.length < 2) return null;
  return (
    <select
      aria-label="Club"
      className="max-w-44 border-b border-rule bg-transparent text-slate"
      value={clubs.find((one) => one.chosen)?.id}
      onChange={(event) => choose.mutate(Number(event.target.value))}
    >
      {clubs.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      ))}
    </select>
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

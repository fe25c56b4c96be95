import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useAthletes } from "../api/athletes";
import { api, type Club, type Invitation, type Member, ok } from "../api/client";
import { useMay } from "../api/session";
import { Confirm } from "../components/Confirm";
import { Label } from "../components/fields";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf, ROLE_NAMES } from "../components/words";
import { Link } from "react-router";

const ROLES = Object.keys(ROLE_NAMES) as Member["role"][];

/** The club: who is in it, who is invited, and its settings. */
export function ClubPage() {
  const club = useQuery({ queryKey: ["club"], queryFn: () => ok(api.GET("/api/club")) });
  const head = useMay("club");
  return (
    <PaperPage
      title={club.data?.club.name ?? "Club"}
      aside={
        head && (
          <span className="flex gap-5">
            <Link className="quiet" to="/club/data">
              The club&rsquo;s data
            </Link>
            <Link className="quiet" to="/club/journal">
              Journal: who did what
            </Link>
          </span>
        )
      }
    >
      <Problem error={club.error} />
      {club.data && (
        <div className="grid gap-10 md:grid-cols-[1fr_320px]">
          <div>
            <Members members={club.data.members} head={head} />
            <Invitations invitations={club.data.invitations} />
          </div>
          <div className="flex flex-col gap-8">
            <InviteForm roles={club.data.may_invite} />
            {head && <Settings key={club.data.club.name} club={club.data.club} />}
          </div>
        </div>
      )}
    </PaperPage>
  );
}

/** What is done in the club, after which it is asked for again. */
function useChange<T>(act: (said: T) => Promise<unknown>) {
  return useDoing(["club"], act);
}

function Members({ members, head }: { members: Member[]; head: boolean }) {
  const remove = useChange((member: number) => ok(api.DELETE("/api/club/members/{member}", { params: { path: { member } } })));
  return (
    <section>
      <Problem error={remove.error} />
      {ROLES.map((role) => {
        const rows = members.filter((one) => one.role === role);
        if (!rows.length) return null;
        return (
          <div key={role} className="mb-6">
            <h2 className="border-b-2 border-rule pb-1 font-serif text-xl font-semibold">{PLURALS[role]}</h2>
            <ul>
              {rows.map((one) => (
                <li key={one.id} className="flex items-baseline gap-4 border-b border-rule py-2">
                  <span className="min-w-0 flex-1">
                    {one.name}
                    {one.of.join() !== one.name && one.of.length > 0 && (
                      <span className="text-slate"> {role === "guardian" ? `of ${one.of.join(", ")}` : `(${one.of.join(", ")})`}</span>
                    )}
                    <span className="block text-slate">{one.email}</span>
                  </span>
                  {head && (
                    <Confirm
                      trigger="Remove"
                      label={`Remove ${one.name}, ${ROLE_NAMES[role]}`}
                      title={`Remove ${one.name} as ${ROLE_NAMES[role]}?`}
                      act="Remove"
                      run={() => remove.mutate(one.id)}
                      error={null}
                    >
                      They see nothing of the club by this role any more. What they scored and wrote stays.
                    </Confirm>
                  )}
                </li>
              ))}
            </ul>
          </div>
        );
      })}
    </section>
  );
}

const PLURALS: Record<Member["role"], string> = {
  head_coach: "Head coaches",
  coach: "Coaches",
  scorer: "Scorers",
  athlete: "Athletes with a sign-in",
  guardian: "Guardians",
};

function Invitations({ invitations }: { invitations: Invitation[] }) {
  const withdraw = useChange((invitation: string) =>
    ok(api.DELETE("/api/club/invitations/{invitation}", { params: { path: { invitation } } })),
  );
  if (!invitations.length) return null;
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 font-serif text-xl font-semibold">Invited</h2>
      <Problem error={withdraw.error} />
      <ul>
        {invitations.map((one) => (
          <li key={one.id} className="flex items-baseline gap-4 border-b border-rule py-2">
            <span className="min-w-0 flex-1">
              {one.email}
              <span className="block text-slate">
                {ROLE_NAMES[one.role]}
                {one.athlete_name && (one.role === "guardian" ? ` of ${one.athlete_name}` : `: ${one.athlete_name}`)}, until{" "}
                {dayOf(one.ends.slice(0, 10))}
              </span>
            </span>
            <button
              type="button"
              className="quiet"
              aria-label={`Withdraw the invitation of ${one.email}`}
              onClick={() => withdraw.mutate(one.id)}
            >
              Withdraw
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function InviteForm({ roles }: { roles: Member["role"][] }) {
  const athletes = useAthletes().data ?? [];
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Member["role"]>(roles.includes("coach") ? "coach" : "scorer");
  const [athlete, setAthlete] = useState("");
  const [sent, setSent] = useState("");
  const about = role === "athlete" || role === "guardian";
  const invite = useChange(() =>
    ok(api.POST("/api/club/invitations", { body: { email, role, athlete: about ? Number(athlete) : null } })).then(() => {
      setSent(email);
      setEmail("");
    }),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setSent("");
    invite.mutate(undefined);
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4">
      <h2 className="text-xl font-semibold">Invite someone</h2>
      <Label text="E-mail address">
        <input className="field" type="email" required value={email} onChange={(event) => setEmail(event.target.value)} />
      </Label>
      <Label text="Role" note={NOTES[role]}>
        <select className="field" value={role} onChange={(event) => setRole(event.target.value as Member["role"])}>
          {roles.map((one) => (
            <option key={one} value={one}>
              {ROLE_NAMES[one]}
            </option>
          ))}
        </select>
      </Label>
      {about && (
        <Label text={role === "guardian" ? "Guardian of" : "Who is it?"}>
          <select className="field" required value={athlete} onChange={(event) => setAthlete(event.target.value)}>
            <option value="">choose an athlete</option>
            {athletes.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </Label>
      )}
      <Problem error={invite.error} />
      {sent && <p role="status">The invitation is on its way to {sent}.</p>}
      <button type="submit" className="act self-start" disabled={invite.isPending}>
        Send the invitation
      </button>
    </form>
  );
}

const NOTES: Record<Member["role"], string> = {
  head_coach: "Everything a coach does, and who is in the club.",
  coach: "Sets up, scores and reviews matches; of a child only if named for it.",
  scorer: "Scores the matches that are given to them, and sees no others.",
  athlete: "Sees their own reports and drills, and nothing of others.",
  guardian: "Sees what their child sees, and decides what may be shown.",
};

function Settings({ club }: { club: Club }) {
  const [name, setName] = useState(club.name);
  const [age, setAge] = useState(String(club.adult_age));
  const [initials, setInitials] = useState(club.initials);
  const save = useChange(() => ok(api.PATCH("/api/club", { body: { name, adult_age: Number(age), initials } })));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined);
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4">
      <h2 className="text-xl font-semibold">The club</h2>
      <Label text="Name">
        <input className="field" required maxLength={80} value={name} onChange={(event) => setName(event.target.value)} />
      </Label>
      <Label
        text="Not a child from the age of"
        note="Footage and reports of a child are seen only by the coaches named for them, and by their guardians."
      >
        <input
          className="field w-24!"
          type="number"
          min={13}
          max={21}
          required
          value={age}
          onChange={(event) => setAge(event.target.value)}
        />
      </Label>
      <label className="flex gap-3">
        <input type="checkbox" className="accent-amber-deep" checked={initials} onChange={(event) => setInitials(event.target.checked)} />
        Show opponents by their initials outside the club
      </label>
      <Problem error={save.error} />
      {save.isSuccess && <p role="status">Saved.</p>}
      <button type="submit" className="act self-start" disabled={save.isPending}>
        Save
      </button>
    </form>
  );
}

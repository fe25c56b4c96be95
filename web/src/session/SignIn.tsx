import { type FormEvent, useState } from "react";
import { Brand } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useSession, useSignIn } from "../api/session";

export function SignIn() {
  const signIn = useSignIn();
  const demo = useSession().data?.demo;
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ username, password });
  };
  return (
    <div className="grid min-h-screen md:grid-cols-[1fr_440px]">
      <Welcome />
      <main className="paper flex flex-col justify-center px-6 py-10 sm:px-12">
        <div className="mb-8 md:hidden">
          <Brand />
        </div>
        <h1 className="mb-6 text-[32px] font-semibold">Sign in</h1>
        <form onSubmit={submit} className="flex flex-col gap-5">
          <label>
            <span className="mb-1 block font-semibold">Name</span>
            <input
              className="field"
              autoComplete="username"
              autoFocus
              required
              value={username}
              onChange={(event) => setUsername(event.target.value)}
            />
          </label>
          <label>
            <span className="mb-1 block font-semibold">Password</span>
            <input
              className="field"
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          </label>
          {demo && (
            <p className="border-l-4 border-rule pl-3" data-testid="demo">
              This is a demo; everyone in it is fictional. You can sign in as <b>{demo.name}</b> with the password <b>{demo.password}</b>.
            </p>
          )}
          <Problem error={signIn.error} />
          <button type="submit" className="act self-start" disabled={signIn.isPending}>
            {signIn.isPending ? "Signing in…" : "Sign in"}
          </button>
        </form>
      </main>
    </div>
  );
}

/** What the product is for, on the dark half of a wide screen. */
function Welcome() {
  return (
    <section className="hidden flex-col justify-between bg-night p-12 text-bone md:flex">
      <Brand dark />
      <div>
        <Exchanges />
        <p className="mt-10 max-w-md font-serif text-[28px] leading-snug">Three seconds decide it. See them counted, and see why.</p>
      </div>
      <p className="max-w-md text-fog">The event&rsquo;s own rulebook, its referees and its medical staff overrule anything shown here.</p>
    </section>
  );
}

/** The spine in small: who gained what, down one line of time. */
function Exchanges() {
  const rows: [number, number][] = [
    [2, 0],
    [0, 2],
    [3, 0],
    [0, 1],
    [4, 0],
    [0, 3],
  ];
  return (
    <svg viewBox="0 0 420 214" className="w-full max-w-md" aria-hidden>
      <line x1="210" x2="210" y1="0" y2="214" stroke="var(--color-seam)" strokeWidth="3" />
      {rows.map(([a, b], row) => (
        <g key={row} transform={`translate(0 ${row * 36 + 8})`}>
          <rect x={204 - a * 40} width={a * 40} height="18" fill="var(--color-amber)" />
          <rect x="216" width={b * 40} height="18" fill="var(--color-sea)" />
          <circle cx="210" cy="9" r="5" fill="var(--color-bone)" />
        </g>
      ))}
    </svg>
  );
}

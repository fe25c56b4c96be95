import { type UseMutationResult, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { QRCodeSVG } from "qrcode.react";
import { type ReactNode, useState } from "react";
import * as account from "../api/account";
import { api, ok, type Preferences } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { dayOf } from "../components/words";
import { Field, OneForm } from "../session/Entrance";

/** One's own account: address, password, second factor, and where one is signed in. */
export function AccountPage() {
  return (
    <PaperPage title="Your account">
      <div className="grid max-w-4xl gap-x-12 gap-y-8 md:grid-cols-2">
        <EmailPart />
        <PasswordPart />
        <SecondFactorPart />
        <DevicesPart />
        <NoticesPart />
      </div>
    </PaperPage>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-t-2 border-rule pt-3">
      <h2 className="mb-3 font-serif text-xl font-semibold">{title}</h2>
      <div className="flex flex-col gap-3">{children}</div>
    </section>
  );
}

/** What is done to the account, after which one query is asked again. */
function useDoing<T>(query: string, act: (said: T) => Promise<unknown>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: act, onSuccess: () => queries.invalidateQueries({ queryKey: ["account", query] }) });
}

/** The password, asked for where an action needs it, and then the action again. */
function AskAgain<T>({ doing }: { doing: UseMutationResult<unknown, Error, T> }) {
  const show = useMutation({
    mutationFn: (said: Record<string, string>) => account.showPassword(said["password"] ?? ""),
    onSuccess: () => doing.mutate(doing.variables as T),
  });
  if (!(doing.error instanceof account.AskAgain)) return <Problem error={doing.error} />;
  return (
    <div className="border-l-4 border-amber-deep pl-3">
      <OneForm act="Go on" busy={show.isPending} error={show.error} submit={show.mutate}>
        <Field text="Your password, once more" name="password" type="password" autoComplete="current-password" autoFocus />
      </OneForm>
    </div>
  );
}

function EmailPart() {
  const known = useQuery({ queryKey: ["account", "addresses"], queryFn: account.addresses });
  const change = useDoing("addresses", account.changeAddress);
  return (
    <Part title="E-mail address">
      <Problem error={known.error} />
      {known.data?.length === 0 && <p className="text-slate">No address yet. With one you can sign in by mail and get notices.</p>}
      <ul>
        {known.data?.map((one) => (
          <li key={one.email}>
            {one.email} <span className="text-slate">{one.verified ? "" : "(not confirmed: open the link in the mail)"}</span>
          </li>
        ))}
      </ul>
      <OneForm act="Change the address" busy={change.isPending} error={null} submit={(said) => change.mutate(said["email"] ?? "")}>
        <Field text="New address" name="email" type="email" autoComplete="email" />
      </OneForm>
      <AskAgain doing={change} />
    </Part>
  );
}

function PasswordPart() {
  const change = useDoing("password", (said: Record<string, string>) => account.changePassword(said["current"] ?? "", said["next"] ?? ""));
  return (
    <Part title="Password">
      <OneForm act="Change the password" busy={change.isPending} error={null} submit={change.mutate}>
        <Field text="Current password" name="current" type="password" autoComplete="current-password" />
        <Field text="New password" name="next" type="password" autoComplete="new-password" minLength={12} />
      </OneForm>
      {change.isSuccess && <p role="status">Your password is changed.</p>}
      <AskAgain doing={change} />
    </Part>
  );
}

function SecondFactorPart() {
  const known = useQuery({ queryKey: ["account", "authenticators"], queryFn: account.authenticators });
  const on = known.data?.some((one) => one.type === "totp");
  const off = useDoing("authenticators", account.turnOffSecondFactor);
  return (
    <Part title="Second factor">
      <Problem error={known.error} />
      {on === false && <TurnOn />}
      {on && (
        <>
          <p>On: signing in by password also asks for a code from your authenticator app.</p>
          <RecoveryCodes />
          <button type="button" className="quiet self-start" onClick={() => off.mutate(undefined)}>
            Turn it off
          </button>
          <AskAgain doing={off} />
        </>
      )}
    </Part>
  );
}

function TurnOn() {
  const secret = useDoing("secret", account.newSecret);
  const on = useDoing("authenticators", (said: Record<string, string>) =>
    account.turnOnSecondFactor((said["code"] ?? "").replaceAll(" ", "")),
  );
  const made = secret.data as Awaited<ReturnType<typeof account.newSecret>> | undefined;
  return (
    <>
      <p className="text-slate">A password can be seen or guessed. With a second factor it is not enough by itself.</p>
      {!made && (
        <button type="button" className="act self-start" onClick={() => secret.mutate(undefined)}>
          Set it up
        </button>
      )}
      <AskAgain doing={secret} />
      {made && (
        <>
          <p>Scan this with an authenticator app, or type the secret into it. Then type the code that it shows.</p>
          <QRCodeSVG value={made.totp_url} size={168} marginSize={3} title="Code to scan" />
          <p className="font-mono text-sm break-all" data-testid="secret">
            {made.secret}
          </p>
          <OneForm act="Turn it on" busy={on.isPending} error={null} submit={on.mutate}>
            <Field text="Code from the app" name="code" inputMode="numeric" autoComplete="one-time-code" />
          </OneForm>
          <AskAgain doing={on} />
        </>
      )}
    </>
  );
}

function RecoveryCodes() {
  const [shown, setShown] = useState<string[] | null>(null);
  const show = useDoing("codes", async (fresh: boolean) => setShown(await (fresh ? account.newRecoveryCodes() : account.recoveryCodes())));
  return (
    <>
      <p>
        Each recovery code signs you in once without the app. Print them or write them down.{" "}
        <button type="button" className="quiet" onClick={() => show.mutate(false)}>
          Show them
        </button>{" "}
        <button type="button" className="quiet" onClick={() => show.mutate(true)}>
          Make new ones
        </button>
      </p>
      <AskAgain doing={show} />
      {shown && (
        <ul className="grid grid-cols-2 font-mono" data-testid="recovery-codes">
          {shown.map((code) => (
            <li key={code}>{code}</li>
          ))}
        </ul>
      )}
    </>
  );
}

const NOTICES: [Preferences["muted"][number], string][] = [
  ["answered", "someone replies to a report"],
  ["handed_in", "a second score is submitted"],
  ["given", "a match is given to me to score"],
  ["sent", "a report is sent to me"],
];

function NoticesPart() {
  const queries = useQueryClient();
  const known = useQuery({ queryKey: ["preferences"], queryFn: () => ok(api.GET("/api/preferences")), staleTime: Infinity });
  const save = useMutation({
    mutationFn: (muted: Preferences["muted"]) => ok(api.PATCH("/api/preferences", { body: { muted } })),
    onSuccess: (now) => queries.setQueryData(["preferences"], now),
  });
  const muted = known.data?.muted ?? [];
  return (
    <Part title="Send me a mail when">
      <ul>
        {NOTICES.map(([kind, words]) => (
          <li key={kind} className="py-0.5">
            <label className="flex gap-3">
              <input
                type="checkbox"
                className="accent-amber-deep"
                checked={!muted.includes(kind)}
                disabled={!known.data || save.isPending}
                onChange={(event) => save.mutate(event.target.checked ? muted.filter((one) => one !== kind) : [...muted, kind])}
              />
              {words}
            </label>
          </li>
        ))}
      </ul>
      <Problem error={known.error ?? save.error} />
    </Part>
  );
}

function DevicesPart() {
  const known = useQuery({ queryKey: ["account", "devices"], queryFn: account.devices });
  const out = useDoing("devices", account.signOutDevices);
  const others = known.data?.filter((one) => !one.is_current) ?? [];
  return (
    <Part title="Where you are signed in">
      <Problem error={known.error ?? out.error} />
      <ul>
        {known.data?.map((one) => (
          <li key={one.id} className="flex items-baseline gap-3 border-b border-rule py-2">
            <span className="min-w-0 flex-1">
              {deviceName(one.user_agent)}
              <span className="block text-slate">
                {one.is_current ? "this device" : `signed in on ${dayOf(new Date(one.created_at * 1000).toISOString().slice(0, 10))}`},{" "}
                {one.ip}
              </span>
            </span>
            {!one.is_current && (
              <button type="button" className="quiet" onClick={() => out.mutate([one.id])}>
                Sign out
              </button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 1 && (
        <button type="button" className="quiet self-start" onClick={() => out.mutate(others.map((one) => one.id))}>
          Sign out everywhere else
        </button>
      )}
    </Part>
  );
}

const BROWSERS = ["Edg", "Firefox", "Chrome", "Safari"];
const SYSTEMS: [RegExp, string][] = [
  [/iPhone|iPad/, "iPhone or iPad"],
  [/Android/, "Android"],
  [/Windows/, "Windows"],
  [/Mac OS/, "Mac"],
  [/Linux/, "Linux"],
];

/** What a browser calls itself, as far as a person recognises it. */
function deviceName(agent: string): string {
  const browser = BROWSERS.find((name) => agent.includes(name))?.replace("Edg", "Edge");
  const system = SYSTEMS.find(([pattern]) => pattern.test(agent))?.[1];
  return [browser ?? "A browser", system && `on ${system}`].filter(Boolean).join(" ");
}

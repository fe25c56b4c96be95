import { useQuery } from "@tanstack/react-query";
import { QRCodeSVG } from "qrcode.react";
import { useState } from "react";
import { Link } from "react-router";
import * as account from "../api/account";
import { useSession } from "../api/session";
import { AskAgain } from "../components/AskAgain";
import { Field, OneForm } from "../components/OneForm";
import { NewPassword } from "../components/NewPassword";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { dayOf } from "../components/words";
import { DataPart } from "./DataPart";
import { NoticesPart } from "./NoticesPart";
import { Part, useChange } from "./parts";
import { PasskeysPart } from "./PasskeysPart";

/** One's own account: address, password, second factor, where one is signed in, notices, and all of one's data. */
export function AccountPage() {
  const administrator = useSession().data?.administrator;
  return (
    <PaperPage
      title="Your account"
      aside={
        administrator && (
          <span className="flex gap-5">
            <Link className="quiet" to="/operations">
              Installation status
            </Link>
            <Link className="quiet" to="/installation">
              Clubs of this installation
            </Link>
          </span>
        )
      }
    >
      <div className="grid max-w-4xl gap-x-12 gap-y-8 md:grid-cols-2">
        <EmailPart />
        <PasswordPart />
        <SecondFactorPart />
        <PasskeysPart />
        <DevicesPart />
        <NoticesPart />
        <DataPart />
      </div>
    </PaperPage>
  );
}

function EmailPart() {
  const known = useQuery({ queryKey: ["account", "addresses"], queryFn: account.addresses });
  const change = useChange("addresses", account.changeAddress);
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
  const change = useChange("password", (said: Record<string, string>) => account.changePassword(said["current"] ?? "", said["next"] ?? ""));
  return (
    <Part title="Password">
      <OneForm act="Change the password" busy={change.isPending} error={null} submit={change.mutate}>
        <Field text="Current password" name="current" type="password" autoComplete="current-password" />
        <NewPassword name="next" text="New password" />
      </OneForm>
      {change.isSuccess && <p role="status">Your password is changed.</p>}
      <AskAgain doing={change} />
    </Part>
  );
}

function SecondFactorPart() {
  const known = useQuery({ queryKey: ["account", "authenticators"], queryFn: account.authenticators });
  const on = known.data?.some((one) => one.type === "totp");
  const off = useChange("authenticators", account.turnOffSecondFactor);
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
  const secret = useChange("secret", account.newSecret);
  const on = useChange("authenticators", (said: Record<string, string>) =>
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
  const show = useChange("codes", async (fresh: boolean) => setShown(await (fresh ? account.newRecoveryCodes() : account.recoveryCodes())));
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

function DevicesPart() {
  const known = useQuery({ queryKey: ["account", "devices"], queryFn: account.devices });
  const out = useChange("devices", account.signOutDevices);
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

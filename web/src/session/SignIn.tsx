import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import { askForCode, askForReset, canUsePasskeys, confirmCode, secondFactor, signIn, type Step, withPasskey } from "../api/account";
import { startOver, useSession } from "../api/session";
import { Field, OneForm } from "../components/OneForm";
import { Problem } from "../components/Problem";
import { Entrance } from "./Entrance";

type View = "password" | "mail" | "forgotten" | "sent" | Step;

const TITLES: Record<View, string> = {
  password: "Sign in",
  mail: "Sign in by mail",
  forgotten: "A new password",
  sent: "Look in your mail",
  code: "Look in your mail",
  "second factor": "Second factor",
  address: "Confirm your address",
  done: "Sign in",
};

/** Signing in: by a password or a mail, with the second factor where the account has one. */
export function SignIn() {
  const queries = useQueryClient();
  const [view, setView] = useState<View>("password");
  const went = async (step: Step) => {
    setView(step);
    if (step === "done") await startOver(queries);
  };
  return (
    <Entrance title={TITLES[view]}>
      {view === "password" && <ByPassword went={went} go={setView} />}
      {view === "mail" && <ByMail went={went} />}
      {view === "code" && <Code went={went} />}
      {view === "second factor" && <SecondFactor went={went} />}
      {view === "forgotten" && <Forgotten sent={() => setView("sent")} />}
      {view === "sent" && <p>If an account has this address, a mail with a link is on its way. The link works once.</p>}
      {view === "address" && <p>Your address is not confirmed yet. A mail with a link is on its way; open the link, then sign in.</p>}
      {view !== "password" && view !== "done" && (
        <button type="button" className="quiet mt-6 self-start" onClick={() => setView("password")}>
          Back to the password
        </button>
      )}
      <PostLink />
    </Entrance>
  );
}

interface Went {
  went: (step: Step) => Promise<void>;
}

/** What is done to go on, and where that leads. */
function useStep<T>(act: (said: T) => Promise<Step>, went: Went["went"]) {
  return useMutation({ mutationFn: act, onSuccess: went });
}

function ByPassword({ went, go }: Went & { go: (view: View) => void }) {
  const session = useSession().data;
  const demo = session?.demo;
  const enter = useStep((said: Record<string, string>) => signIn(said["login"] ?? "", said["password"] ?? ""), went);
  return (
    <>
      <OneForm act={enter.isPending ? "Signing in…" : "Sign in"} busy={enter.isPending} error={enter.error} submit={enter.mutate}>
        <Field text="Name or e-mail address" name="login" autoComplete="username" autoFocus />
        <Field text="Password" name="password" type="password" autoComplete="current-password" />
        {demo && (
          <p className="border-l-4 border-rule pl-3" data-testid="demo">
            This is a demo; everyone in it is fictional. You can sign in as <b>{demo.name}</b> with the password <b>{demo.password}</b>.
          </p>
        )}
      </OneForm>
      <p className="mt-6 flex flex-wrap gap-x-5 gap-y-1">
        <ByPasskey as="login" went={went} />
        <button type="button" className="quiet" onClick={() => go("mail")}>
          Send me a link instead
        </button>
        <button type="button" className="quiet" onClick={() => go("forgotten")}>
          Forgot your password?
        </button>
        {session?.open_sign_up && (
          <Link className="quiet" to="/sign-up">
            Create an account
          </Link>
        )}
      </p>
    </>
  );
}

/** A passkey in place of the password, or of the code after it; nothing where this browser has none for this address. */
function ByPasskey({ as, went }: Went & { as: "login" | "authenticate" }) {
  const use = useStep(() => withPasskey(as), went);
  if (!canUsePasskeys()) return null;
  return (
    <>
      <button type="button" className="quiet" disabled={use.isPending} onClick={() => use.mutate(undefined)}>
        Use a passkey
      </button>
      <Problem error={use.error} />
    </>
  );
}

function ByMail({ went }: Went) {
  const ask = useStep((said: Record<string, string>) => askForCode(said["email"] ?? ""), went);
  return (
    <OneForm act="Send the mail" busy={ask.isPending} error={ask.error} submit={ask.mutate}>
      <p>We send a link and a code that sign you in once, in this browser.</p>
      <Field text="E-mail address" name="email" type="email" autoComplete="email" autoFocus />
    </OneForm>
  );
}

function Code({ went }: Went) {
  const given = useCodeInAddress();
  const confirm = useStep((said: Record<string, string>) => confirmCode((said["code"] ?? "").trim()), went);
  return (
    <OneForm act="Sign in" busy={confirm.isPending} error={confirm.error} submit={confirm.mutate}>
      <p>If an account has this address, a mail is on its way. Open its link in this browser, or type the code from it here.</p>
      <Field text="Code from the mail" name="code" autoComplete="one-time-code" autoFocus defaultValue={given ?? ""} />
    </OneForm>
  );
}

/** The code that a link in a mail brings along, which is taken out of the address at once. */
export function useCodeInAddress(): string | null {
  const { hash } = useLocation();
  const [code] = useState(() => decodeURIComponent(hash.slice(1)) || null);
  useEffect(() => {
    if (code) window.history.replaceState(null, "", window.location.pathname);
  }, [code]);
  return code;
}

function SecondFactor({ went }: Went) {
  const confirm = useStep((said: Record<string, string>) => secondFactor((said["code"] ?? "").replaceAll(" ", "")), went);
  return (
    <>
      <OneForm act="Sign in" busy={confirm.isPending} error={confirm.error} submit={confirm.mutate}>
        <Field
          text="Code"
          note="From your authenticator app, or one of your recovery codes."
          name="code"
          inputMode="text"
          autoComplete="one-time-code"
          autoFocus
        />
      </OneForm>
      <p className="mt-6">
        <ByPasskey as="authenticate" went={went} />
      </p>
    </>
  );
}

function Forgotten({ sent }: { sent: () => void }) {
  const ask = useMutation({ mutationFn: (said: Record<string, string>) => askForReset(said["email"] ?? ""), onSuccess: sent });
  return (
    <OneForm act="Send the mail" busy={ask.isPending} error={ask.error} submit={ask.mutate}>
      <p>We send a link with which you choose a new password.</p>
      <Field text="E-mail address" name="email" type="email" autoComplete="email" autoFocus />
    </OneForm>
  );
}

/** In the demo mails go to a page of the product. */
export function PostLink() {
  const demo = useSession().data?.demo;
  if (!demo) return null;
  return (
    <p className="mt-8 text-slate">
      No mail leaves this demo:{" "}
      <Link className="quiet" to="/mails">
        read what was sent
      </Link>
    </p>
  );
}

/** Opened by the link in a sign-in mail. */
export function LinkIn() {
  const queries = useQueryClient();
  const code = useCodeInAddress();
  const [step, setStep] = useState<Step>("code");
  const went = async (next: Step) => {
    setStep(next);
    if (next === "done") await startOver(queries);
  };
  const confirm = useStep(() => confirmCode(code ?? ""), went);
  return (
    <Entrance title="Sign in by mail">
      {step === "second factor" ? (
        <SecondFactor went={went} />
      ) : (
        <OneForm act="Sign in" busy={confirm.isPending} error={confirm.error} submit={() => confirm.mutate(undefined)}>
          <p>The link works in the browser in which you asked for it, and once.</p>
        </OneForm>
      )}
      <Link className="quiet mt-6 self-start" to="/">
        To the sign-in page
      </Link>
    </Entrance>
  );
}

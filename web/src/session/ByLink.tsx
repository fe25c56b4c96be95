import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { confirmAddress, resetPassword, signUp } from "../api/account";
import { api, ok } from "../api/client";
import { startOver, useSession, useSignOut } from "../api/session";
import { Problem } from "../components/Problem";
import { ROLE_NAMES } from "../components/words";
import { NewPassword } from "../components/NewPassword";
import { Field, OneForm } from "../components/OneForm";
import { Entrance } from "./Entrance";
import { PostLink, useCodeInAddress } from "./SignIn";

/** Opened by the link in an invitation. */
export function InvitationPage() {
  const token = useCodeInAddress() ?? "";
  const session = useSession().data;
  const path = { params: { path: { token } } };
  const invitation = useQuery({
    queryKey: ["invitation", token],
    queryFn: () => ok(api.GET("/api/invitations/{token}", path)),
    retry: false,
  });
  const queries = useQueryClient();
  const navigate = useNavigate();
  const signOut = useSignOut();
  const join = useMutation({
    mutationFn: () => ok(api.POST("/api/invitations/{token}/taken-up", path)),
    onSuccess: async () => {
      await startOver(queries);
      await navigate("/");
    },
  });
  const to = invitation.data;
  return (
    <Entrance title={to ? `Join ${to.club}` : "Invitation"}>
      <Problem error={invitation.error} />
      {to && (
        <p className="mb-6">
          {to.by} invites you as {ROLE_NAMES[to.role]}
          {to.athlete && (to.role === "guardian" ? ` of ${to.athlete}` : ` (${to.athlete})`)}.
        </p>
      )}
      {to && session?.name && (
        <OneForm act={`Join as ${session.name}`} busy={join.isPending} error={join.error} submit={() => join.mutate()}>
          <p>
            You are signed in as {session.name}. Not you?{" "}
            <button type="button" className="quiet" onClick={() => signOut.mutate()}>
              Sign out
            </button>
          </p>
        </OneForm>
      )}
      {to && !session?.name && to.known && (
        <p>
          {to.email} has an account already.{" "}
          <Link className="quiet" to="/">
            Sign in
          </Link>{" "}
          first, then open the link again.
        </p>
      )}
      {to && !session?.name && !to.known && <SignUpForm email={to.email} />}
    </Entrance>
  );
}

/** Signing up without an invitation, where the installation is open for it. */
export function SignUpPage() {
  return (
    <Entrance title="Create an account">
      <SignUpForm />
      <PostLink />
    </Entrance>
  );
}

function SignUpForm({ email }: { email?: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [waits, setWaits] = useState(false);
  const enter = useMutation({
    mutationFn: (said: Record<string, string>) =>
      signUp({ first_name: said["name"] ?? "", email: said["email"] ?? "", password: said["password"] ?? "" }),
    onSuccess: async (step) => {
      setWaits(step === "address");
      await startOver(queries);
      if (step === "done") await navigate("/");
    },
  });
  if (waits) return <p>Almost there: open the link in the mail that was just sent to you. Then sign in.</p>;
  return (
    <OneForm act="Create the account" busy={enter.isPending} error={enter.error} submit={enter.mutate}>
      <Field text="Your name" note="As the club calls you." name="name" autoComplete="name" maxLength={60} autoFocus />
      <Field
        text="E-mail address"
        name="email"
        type="email"
        autoComplete="email"
        defaultValue={email ?? ""}
        readOnly={email !== undefined}
      />
      <NewPassword text="Password" name="password" />
    </OneForm>
  );
}

/** Opened by the link in a mail for a new password. */
export function ResetPage() {
  const key = useCodeInAddress() ?? "";
  const reset = useMutation({ mutationFn: (said: Record<string, string>) => resetPassword(key, said["password"] ?? "") });
  return (
    <Entrance title="A new password">
      {reset.isSuccess ? (
        <p>
          Your password is changed, and every other device is signed out.{" "}
          <Link className="quiet" to="/">
            Sign in
          </Link>
        </p>
      ) : (
        <OneForm act="Change the password" busy={reset.isPending} error={reset.error} submit={reset.mutate}>
          <NewPassword text="Password" name="password" />
        </OneForm>
      )}
    </Entrance>
  );
}

/** Opened by the link in a mail that confirms an address. */
export function ConfirmPage() {
  const key = useCodeInAddress() ?? "";
  const confirm = useMutation({ mutationFn: () => confirmAddress(key) });
  return (
    <Entrance title="Confirm your address">
      {confirm.isSuccess ? (
        <p>
          Your address is confirmed.{" "}
          <Link className="quiet" to="/">
            Go on to Jurata
          </Link>
        </p>
      ) : (
        <OneForm act="Confirm" busy={confirm.isPending} error={confirm.error} submit={() => confirm.mutate()}>
          <p>One click, and the address is yours.</p>
        </OneForm>
      )}
    </Entrance>
  );
}

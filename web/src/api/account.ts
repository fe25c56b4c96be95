import { ApiError, ASK_AGAIN, csrfToken, refusal, UNREACHABLE } from "./client";

/** What a sign-in still waits for, or that it is done. */
export type Step = "done" | "code" | "second factor" | "address";

interface Answer {
  status: number;
  data?: unknown;
  meta?: Record<string, unknown>;
  errors?: { message: string; code: string; param?: string }[];
}

const STEPS: Record<string, Step> = { verify_email: "address", mfa_authenticate: "second factor", login_by_code: "code" };
const WORDS: Record<string, string> = {
  username_password_mismatch: "Wrong name or password. Try again.",
  email_password_mismatch: "Wrong name or password. Try again.",
  incorrect_code: "That code is wrong or has ended. Check it, or ask for a new one.",
  invalid_password_reset: "This link was used already or has ended. Ask for a new one.",
  invalid_or_expired_key: "This link was used already or has ended. Ask for a new one.",
  incorrect_password: "That is not your current password.",
};

/** Of these the server's own words say all. */
const SAID_BY_SERVER = ["too_many_login_attempts"];

/** One request to the sign-in service. 401 is an answer too: something is still to be done before one is signed in. */
async function call(method: string, path: string, body?: unknown, heads?: Record<string, string>): Promise<Answer> {
  const response = await fetch(`/api/auth/browser/v1/${path}`, {
    method,
    cache: "no-store",
    headers: { "Content-Type": "application/json", "X-CSRFToken": csrfToken(), ...heads },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  }).catch(() => {
    throw new ApiError(0, "unreachable", UNREACHABLE);
  });
  const said = (await response.json().catch(() => ({}))) as Partial<Answer>;
  if (response.status === 400 || response.status === 409) {
    const [first] = said.errors ?? [];
    const faults = (said.errors ?? [])
      .slice(0, first ? undefined : 0)
      .map((one) => ({ path: one.param ?? "", message: one.message, code: one.code }));
    const known = first && (SAID_BY_SERVER.includes(first.code) ? first.message : WORDS[first.code]);
    throw new ApiError(response.status, first?.code ?? "refused", known ?? "Some fields need another look.", known ? [] : faults);
  }
  if (response.status === 429 && !("message" in said)) {
    throw new ApiError(429, "too_many", "Too many requests. Wait a minute, then try again.");
  }
  if (!response.ok && response.status !== 401 && response.status !== 404) throw refusal(response.status, said);
  return { ...said, status: response.status };
}

/** Which step is next; a failure where a request should have led to one. */
function stepOf(answer: Answer): Step {
  if (answer.status === 200) return "done";
  const { flows = [] } = (answer.data ?? {}) as { flows?: { id: string; is_pending?: boolean }[] };
  const pending = flows.find((one) => one.is_pending && one.id in STEPS);
  const step = pending && STEPS[pending.id];
  if (!step) throw new ApiError(answer.status, "no_step", "That didn't work. Start again from the sign-in page.");
  return step;
}

async function own(method: string, path: string, body?: unknown): Promise<Answer> {
  const answer = await call(method, path, body);
  if (answer.status === 401) throw new ApiError(401, ASK_AGAIN, "Enter your password again to go on.");
  return answer;
}

/** A name or an e-mail address, and a password. */
export async function signIn(login: string, password: string): Promise<Step> {
  const who = login.includes("@") ? { email: login } : { username: login };
  return stepOf(await call("POST", "auth/login", { ...who, password }));
}

export async function signOut(): Promise<void> {
  await call("DELETE", "auth/session");
}

/** Have a link and a code sent that sign in once. */
export async function askForCode(email: string): Promise<Step> {
  return stepOf(await call("POST", "auth/code/request", { email }));
}

export async function confirmCode(code: string): Promise<Step> {
  return stepOf(await call("POST", "auth/code/confirm", { code }));
}

export async function secondFactor(code: string): Promise<Step> {
  return stepOf(await call("POST", "auth/2fa/authenticate", { code }));
}

export async function signUp(body: { first_name: string; email: string; password: string }): Promise<Step> {
  return stepOf(await call("POST", "auth/signup", body));
}

export async function confirmAddress(key: string): Promise<void> {
  const answer = await call("POST", "auth/email/verify", { key });
  if (answer.status === 404) throw new ApiError(404, "no_key", "This link was used already or has ended. Ask for a new one.");
}

export async function askForReset(email: string): Promise<void> {
  await call("POST", "auth/password/request", { email });
}

export async function resetPassword(key: string, password: string): Promise<void> {
  await call("POST", "auth/password/reset", { key, password });
}

export async function changePassword(current: string, next: string): Promise<void> {
  await own("POST", "account/password/change", { current_password: current || undefined, new_password: next });
}

export async function showPassword(password: string): Promise<void> {
  await call("POST", "auth/reauthenticate", { password });
}

export interface Address {
  email: string;
  verified: boolean;
  primary: boolean;
}

export async function addresses(): Promise<Address[]> {
  return (await own("GET", "account/email")).data as Address[];
}

/** The new address counts once its owner has followed the link sent to it. */
export async function changeAddress(email: string): Promise<void> {
  await own("POST", "account/email", { email });
}

export interface Device {
  id: number;
  ip: string;
  user_agent: string;
  created_at: number;
  last_seen_at?: number;
  is_current: boolean;
}

export async function devices(): Promise<Device[]> {
  return (await own("GET", "auth/sessions")).data as Device[];
}

export async function signOutDevices(ids: number[]): Promise<void> {
  await own("DELETE", "auth/sessions", { sessions: ids });
}

export interface Authenticator {
  id?: number;
  type: "totp" | "recovery_codes" | "webauthn";
  name?: string;
  created_at: number;
  last_used_at: number | null;
  unused_code_count?: number;
}

export async function authenticators(): Promise<Authenticator[]> {
  return (await own("GET", "account/authenticators")).data as Authenticator[];
}

/** What an authenticator app needs: an address to scan, and the same as text. */
export async function newSecret(): Promise<{ secret: string; totp_url: string }> {
  return (await own("GET", "account/authenticators/totp")).meta as { secret: string; totp_url: string };
}

export async function turnOnSecondFactor(code: string): Promise<void> {
  await own("POST", "account/authenticators/totp", { code });
}

export async function turnOffSecondFactor(): Promise<void> {
  await own("DELETE", "account/authenticators/totp");
}

export async function recoveryCodes(): Promise<string[]> {
  return ((await own("GET", "account/authenticators/recovery-codes")).data as { unused_codes: string[] }).unused_codes;
}

export async function newRecoveryCodes(): Promise<string[]> {
  return ((await own("POST", "account/authenticators/recovery-codes")).data as { unused_codes: string[] }).unused_codes;
}

/** Whether this browser can keep a passkey for this address: it needs a name for it, and a secure connection. */
export function canUsePasskeys(): boolean {
  return (
    window.isSecureContext &&
    "parseCreationOptionsFromJSON" in (window.PublicKeyCredential ?? {}) &&
    !/^[\d.:[\]]+$/.test(location.hostname)
  );
}

/** What a browser says where a passkey was not given: it was cancelled, or none is there. */
async function given(credential: Promise<Credential | null>): Promise<unknown> {
  const made = await credential.catch(() => null);
  if (made === null) throw new ApiError(0, "no_passkey", "No passkey was used. Try again, or use another way.");
  return (made as PublicKeyCredential).toJSON();
}

interface PasskeyOptions {
  creation_options: { publicKey: PublicKeyCredentialCreationOptionsJSON };
  request_options: { publicKey: PublicKeyCredentialRequestOptionsJSON };
}

export async function addPasskey(name: string): Promise<void> {
  const { creation_options } = (await own("GET", "account/authenticators/webauthn?passwordless")).data as PasskeyOptions;
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(creation_options.publicKey);
  const credential = await given(navigator.credentials.create({ publicKey }));
  await own("POST", "account/authenticators/webauthn", { name, credential });
}

export async function removePasskey(id: number): Promise<void> {
  await own("DELETE", "account/authenticators/webauthn", { authenticators: [id] });
}

/** Sign in with a passkey: alone, or as the second factor after a password. */
export async function withPasskey(as: "login" | "authenticate"): Promise<Step> {
  const { request_options } = (await call("GET", `auth/webauthn/${as}`)).data as PasskeyOptions;
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(request_options.publicKey);
  const credential = await given(navigator.credentials.get({ publicKey }));
  return stepOf(await call("POST", `auth/webauthn/${as}`, { credential }));
}

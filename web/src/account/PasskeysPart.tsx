import { useQuery } from "@tanstack/react-query";
import * as account from "../api/account";
import { AskAgain } from "../components/AskAgain";
import { Field, OneForm } from "../components/OneForm";
import { dayOf } from "../components/words";
import { Part, useChange } from "./parts";

/** Passkeys: sign in with this device's lock, without a password. */
export function PasskeysPart() {
  const known = useQuery({ queryKey: ["account", "authenticators"], queryFn: account.authenticators });
  const add = useChange("authenticators", account.addPasskey);
  const remove = useChange("authenticators", account.removePasskey);
  const passkeys = known.data?.filter((one) => one.type === "webauthn") ?? [];
  const day = (seconds: number) => dayOf(new Date(seconds * 1000).toISOString());
  return (
    <Part title="Passkeys">
      <p className="text-slate">With a passkey you sign in by the lock of your phone or computer. It can&rsquo;t be guessed or seen.</p>
      <ul>
        {passkeys.map((one) => (
          <li key={one.id} className="flex items-baseline gap-3 border-b border-rule py-2">
            <span className="min-w-0 flex-1">
              {one.name}
              <span className="block text-slate">
                added on {day(one.created_at)}
                {one.last_used_at && `, used on ${day(one.last_used_at)}`}
              </span>
            </span>
            <button type="button" className="quiet" aria-label={`Remove ${one.name}`} onClick={() => one.id && remove.mutate(one.id)}>
              Remove
            </button>
          </li>
        ))}
      </ul>
      <AskAgain doing={remove} />
      {account.canUsePasskeys() ? (
        <OneForm act="Add a passkey" busy={add.isPending} error={null} submit={(said) => add.mutate(said["name"] ?? "")}>
          <Field text="Name of this device" name="name" maxLength={100} />
        </OneForm>
      ) : (
        <p>
          This browser can&rsquo;t keep a passkey for {location.hostname}. Open Jurata by a name, with https, or as localhost on this
          machine.
        </p>
      )}
      <AskAgain doing={add} />
    </Part>
  );
}

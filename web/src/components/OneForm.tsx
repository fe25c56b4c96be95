import type { ComponentProps, FormEvent, ReactNode } from "react";
import { Problem } from "./Problem";

/** A form with one button. */
export function OneForm({
  act,
  busy,
  error,
  submit,
  children,
}: {
  act: string;
  busy: boolean;
  error: unknown;
  submit: (said: Record<string, string>) => void;
  children: ReactNode;
}) {
  const send = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const said = new FormData(event.currentTarget);
    submit(Object.fromEntries([...said].map(([name, value]) => [name, typeof value === "string" ? value : ""])));
  };
  return (
    <form onSubmit={send} className="flex flex-col gap-5">
      {children}
      <Problem error={error} />
      <button type="submit" className="act self-start" disabled={busy}>
        {act}
      </button>
    </form>
  );
}

export function Field({
  text,
  note,
  ...rest
}: { text: string; note?: string | undefined; name: string } & Omit<ComponentProps<"input">, "className">) {
  return (
    <label>
      <span className="mb-1 block font-semibold">{text}</span>
      <input className="field" required {...rest} />
      {note && <span className="mt-1 block text-slate">{note}</span>}
    </label>
  );
}

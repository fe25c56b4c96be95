import { type ReactNode, useId } from "react";

/** A field of text, with what was typed there before offered. */
export function Typed({
  text,
  most,
  required = false,
  value,
  offered,
  set,
}: {
  text: string;
  most: number;
  required?: boolean;
  value: string;
  offered: string[];
  set: (value: string) => void;
}) {
  const list = useId();
  return (
    <Label text={text}>
      <input
        className="field"
        maxLength={most}
        required={required}
        list={list}
        value={value}
        onChange={(event) => set(event.target.value)}
      />
      <datalist id={list}>
        {offered.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
    </Label>
  );
}

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="border-t-2 border-rule pt-3">
      <legend className="pr-3 font-serif text-xl font-semibold">{title}</legend>
      <div className="grid gap-4 sm:grid-cols-2">{children}</div>
    </fieldset>
  );
}

export function Label({
  text,
  note,
  wide = false,
  children,
}: {
  text: string;
  note?: string | undefined;
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <label className={wide ? "sm:col-span-2" : ""}>
      <span className="mb-1 block font-semibold">{text}</span>
      {children}
      {note && <span className="mt-1 block text-slate">{note}</span>}
    </label>
  );
}

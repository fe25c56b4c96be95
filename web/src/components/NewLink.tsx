import { useState } from "react";

/** A link that was just made: its address is shown this once. */
export function NewLink({ address }: { address: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <p className="flex flex-wrap items-baseline gap-4 border-l-4 border-amber bg-sheet px-3 py-2">
      <label className="min-w-0 flex-1">
        <span className="block text-[15px] text-slate">Shown only once: copy it now</span>
        <input
          className="field font-mono text-[14px]!"
          readOnly
          value={address}
          aria-label="The link"
          onFocus={(event) => event.target.select()}
        />
      </label>
      <button type="button" className="act py-1!" onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>
        {copied ? "Copied" : "Copy"}
      </button>
    </p>
  );
}

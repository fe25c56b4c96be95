import { ApiError } from "../api/client";

/** What went wrong and what to do, with every field the server named. */
export function Problem({ error, dark = false }: { error: unknown; dark?: boolean }) {
  if (!error) return null;
  const message = error instanceof Error ? error.message : String(error);
  const faults = error instanceof ApiError ? error.faults : [];
  return (
    <div role="alert" className={`border-l-4 px-3 py-2 ${dark ? "border-amber bg-rail text-bone" : "border-alarm bg-sheet text-ink"}`}>
      <p className="font-semibold">{message}</p>
      {faults.length > 0 && (
        <ul className="mt-1 max-h-40 list-none overflow-auto">
          {faults.map((fault) => (
            <li key={`${fault.path}${fault.message}`}>
              <span className="font-semibold">{fault.path}</span> {fault.message}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

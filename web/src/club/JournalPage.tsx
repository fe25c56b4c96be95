import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type JournalEntry, ok } from "../api/client";
import { useSession } from "../api/session";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";

/** Who did what: in the club, or, for an administrator, in the whole installation. */
export function JournalPage() {
  const administrator = useSession().data?.administrator ?? false;
  const [whole, setWhole] = useState(false);
  const [search, setSearch] = useState("");
  const [page, setPage] = useState(1);
  const from = (first: number, change: () => void) => {
    change();
    setPage(first);
  };
  const asked = { params: { query: { page, ...(search ? { search } : {}) } } };
  const rows = useQuery({
    queryKey: ["journal", whole, search, page],
    queryFn: () => ok(whole ? api.GET("/api/journal", asked) : api.GET("/api/club/journal", asked)),
    placeholderData: keepPreviousData,
  });
  return (
    <PaperPage title="Journal">
      <p className="mb-4 max-w-2xl text-slate">
        Invitations, roles, consent, links made and opened, exports and deletions, the latest first. Rows are only added: no one can change
        or delete one.
      </p>
      <p className="mb-4 flex flex-wrap items-center gap-6">
        <label className="flex items-center gap-2">
          Search
          <input className="field w-56!" value={search} onChange={(event) => from(1, () => setSearch(event.target.value))} />
        </label>
        {administrator && (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-amber-deep"
              checked={whole}
              onChange={(event) => from(1, () => setWhole(event.target.checked))}
            />
            all clubs, and sign-ins
          </label>
        )}
      </p>
      <Problem error={rows.error} />
      <Rows rows={rows.data?.results ?? []} />
      {rows.data?.count === 0 && <p className="py-3">Nothing yet.</p>}
      <p className="flex gap-5 py-4">
        {rows.data?.previous && (
          <button type="button" className="quiet" onClick={() => setPage(page - 1)}>
            Newer
          </button>
        )}
        {rows.data?.next && (
          <button type="button" className="quiet" onClick={() => setPage(page + 1)}>
            Older
          </button>
        )}
      </p>
    </PaperPage>
  );
}

function Rows({ rows }: { rows: JournalEntry[] }) {
  return (
    <table className="w-full text-left">
      <thead>
        <tr className="border-b-2 border-rule">
          <th className="py-1 pr-4">When</th>
          <th className="pr-4">Who</th>
          <th className="pr-4">What</th>
          <th>From</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id} className="border-b border-rule align-baseline">
            <td className="py-1.5 pr-4 whitespace-nowrap text-slate">{new Date(row.at).toLocaleString()}</td>
            <td className="pr-4">{row.name}</td>
            <td className="pr-4">
              {row.what}
              {row.about && <span className="text-slate">: {row.about}</span>}
            </td>
            <td className="text-slate">{row.address}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

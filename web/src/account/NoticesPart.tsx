import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ok, type Preferences } from "../api/client";
import { type Right, useSession } from "../api/session";
import { Problem } from "../components/Problem";
import { Part } from "./parts";

type Kind = Preferences["muted"][number];

/** Each kind with when it comes, and the right that whoever gets it has; with none, it comes to everyone. */
const NOTICES: [Kind, string, Right?][] = [
  ["answered", "Someone replies to a report", "set_up"],
  ["handed_in", "A second score is submitted", "set_up"],
  ["given", "A match is given to me to score", "score"],
  ["sent", "A report is sent to me", "own"],
  ["clip_ready", "A clip I uploaded is ready", "set_up"],
  ["invited", "I am invited to another club"],
  ["joined", "Someone accepts my invitation", "set_up"],
  ["old_clips", "Clips are older than the club keeps them", "club"],
  ["made", "An export or a deletion of clips is done"],
];

/** Of what one gets notice: in Jurata, and by mail. */
export function NoticesPart() {
  const queries = useQueryClient();
  const known = useQuery({ queryKey: ["preferences"], queryFn: () => ok(api.GET("/api/preferences")), staleTime: Infinity });
  const save = useMutation({
    mutationFn: (body: Partial<Preferences>) => ok(api.PATCH("/api/preferences", { body })),
    onSuccess: (now) => queries.setQueryData(["preferences"], now),
  });
  const may = useSession().data?.clubs.flatMap((club) => club.may) ?? [];
  const shown = NOTICES.filter(([, , right]) => !right || may.includes(right));
  const box = (kind: Kind, words: string, where: "hidden" | "muted") => {
    const off = known.data?.[where] ?? [];
    return (
      <td className="w-16 text-center">
        <input
          type="checkbox"
          className="accent-amber-deep"
          aria-label={`${words}, ${where === "muted" ? "by mail" : "in Jurata"}`}
          checked={!off.includes(kind)}
          disabled={!known.data || save.isPending || (kind === "invited" && where === "muted")}
          onChange={(event) => save.mutate({ [where]: event.target.checked ? off.filter((one) => one !== kind) : [...off, kind] })}
        />
      </td>
    );
  };
  return (
    <Part title="Notices">
      <table className="w-full">
        <thead>
          <tr className="border-b border-rule text-left">
            <th className="font-semibold">When</th>
            <th className="font-semibold">In Jurata</th>
            <th className="text-center font-semibold">By mail</th>
          </tr>
        </thead>
        <tbody>
          {shown.map(([kind, words]) => (
            <tr key={kind} className="border-b border-rule">
              <td className="py-1">{words}</td>
              {box(kind, words, "hidden")}
              {box(kind, words, "muted")}
            </tr>
          ))}
        </tbody>
      </table>
      <Problem error={known.error ?? save.error} />
    </Part>
  );
}

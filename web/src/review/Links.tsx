import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ok, type ShareLink } from "../api/client";
import { NewLink } from "../components/NewLink";
import { Problem } from "../components/Problem";
import { dayOf, isPast } from "../components/words";
import { useLetter } from "./useReview";

/** Links that show the report to whoever has them, until they end. */
export function Links({ id, missing }: { id: string; missing: number }) {
  const queries = useQueryClient();
  const [days, setDays] = useState(14);
  const links = useQuery({
    queryKey: ["links", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/links", { params: { path: { match: id } } })),
  });
  const letter = useLetter(id).data;
  const again = () => queries.invalidateQueries({ queryKey: ["links", id] });
  const make = useMutation({
    mutationFn: () => ok(api.POST("/api/matches/{match}/links", { params: { path: { match: id } }, body: { days } })),
    onSuccess: again,
  });
  const revoke = useMutation({
    mutationFn: (link: string) => ok(api.DELETE("/api/matches/{match}/links/{link}", { params: { path: { match: id, link } } })),
    onSuccess: again,
  });
  const address = make.data ? `${window.location.origin}/r/${make.data.token}` : "";
  return (
    <section>
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">Send it</h2>
      <Sent id={id} />
      <p className="flex flex-wrap items-baseline gap-3 py-3">
        <label className="flex items-baseline gap-2">
          Link valid for
          <select className="field w-auto! py-0.5!" value={days} onChange={(event) => setDays(Number(event.target.value))}>
            {letter?.link_days.map((one) => (
              <option key={one} value={one}>
                {one} days
              </option>
            ))}
          </select>
        </label>
        <button type="button" className="act py-1!" disabled={make.isPending} onClick={() => make.mutate()}>
          Create link
        </button>
        <span className="text-slate">Anyone with the link can see this report and nothing else.</span>
      </p>
      {missing > 0 && (
        <p className="mb-3 border-l-4 border-amber pl-3">
          {missing === 1 ? "One clip is" : `${missing} clips are`} not made yet: whoever reads the report now sees no footage of{" "}
          {missing === 1 ? "it" : "them"}.
        </p>
      )}
      {letter?.child && (
        <p className="mb-3 border-l-4 border-alarm pl-3">
          This is footage of a minor. Send it to the athlete&rsquo;s family, and to no one else without their permission. A link needs a
          guardian&rsquo;s consent, shows first names only, and works for {Math.max(...letter.link_days)} days at most.
        </p>
      )}
      {address && <NewLink key={address} address={address} />}
      <ul>
        {links.data?.map((link) => (
          <OneLink key={link.id} link={link} revoke={() => revoke.mutate(link.id)} />
        ))}
      </ul>
      <Problem error={links.error ?? make.error ?? revoke.error} />
    </section>
  );
}

/** Sent to the athlete's own place: for those who have a sign-in, and for a child's guardians. */
function Sent({ id }: { id: string }) {
  const queries = useQueryClient();
  const params = { path: { match: id } };
  const letter = useLetter(id);
  const send = useMutation({
    mutationFn: (sent: boolean) => ok(api.PUT("/api/matches/{match}/sent", { params, body: { sent } })),
    onSuccess: (now) => queries.setQueryData(["letter", id], now),
  });
  const sent = letter.data?.sent;
  return (
    <div className="flex flex-wrap items-baseline gap-3 border-b border-rule py-3">
      <button type="button" className={sent ? "quiet" : "act py-1!"} disabled={send.isPending} onClick={() => send.mutate(!sent)}>
        {sent ? "Take it back" : "Show it to the athlete"}
      </button>
      <span className="text-slate">
        {letter.data?.readers === 0 ? (
          <>
            Neither the athlete nor a guardian has an account yet: send a link, or{" "}
            <Link className="quiet" to="/club">
              invite them
            </Link>
            . {sent && "They will see it when they sign in."}
          </>
        ) : sent ? (
          `Shown since ${dayOf(sent)} to the athlete and their guardians, when they sign in.`
        ) : (
          "The athlete and their guardians see it when they sign in. No link is needed."
        )}
      </span>
      <Problem error={send.error ?? letter.error} />
    </div>
  );
}

function OneLink({ link, revoke }: { link: ShareLink; revoke: () => void }) {
  const ended = isPast(link.ends);
  return (
    <li className="flex flex-wrap gap-x-4 border-t border-rule py-1.5">
      <span className="flex-1">
        Link created {dayOf(link.created)}, {link.revoked ? "revoked" : ended ? "expired" : `expires ${dayOf(link.ends)}`};{" "}
        {link.opened ? `last opened ${dayOf(link.opened)}` : "not opened yet"}
      </span>
      {!link.revoked && !ended && (
        <button type="button" className="quiet" onClick={revoke}>
          Revoke
        </button>
      )}
    </li>
  );
}

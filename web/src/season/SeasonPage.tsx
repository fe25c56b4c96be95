import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useParams } from "react-router";
import { api, ok, type Season } from "../api/client";
import { Opens } from "../components/Moments";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { ComesBack } from "./ComesBack";
import { Fouls, Scored, Times } from "./Figures";
import { Played } from "./Played";
import { Works } from "./Works";

type Ask = (id: number, query: { split?: string }) => Promise<Season>;

/** The season of an athlete, for the coaches. */
export function SeasonPage() {
  const { id = "" } = useParams();
  const ask: Ask = (athlete, query) => ok(api.GET("/api/athletes/{id}/season", { params: { path: { id: athlete }, query } }));
  const files = `/api/athletes/${id}/season`;
  return (
    <OneSeason
      whose="an athlete"
      ask={ask}
      pageOf={(match) => `/matches/${match}/review`}
      aside={
        <span className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
          <Link className="act" to={`/athletes/${id}/plan`}>
            Plan the drills
          </Link>
          <a className="quiet" href={`${files}/pdf`} download>
            PDF
          </a>
          <a className="quiet" href={`${files}/tables`} download>
            Tables (CSV)
          </a>
          <a className="quiet" href={`${files}/json`} download>
            JSON
          </a>
        </span>
      }
    >
      <Link className="quiet" to="/matches/new">
        Set up the first one
      </Link>
      , or{" "}
      <Link className="quiet" to="/season/import">
        import logs you have.
      </Link>
    </OneSeason>
  );
}

/** One's own season, or one's child's: without footage, and with the errors of the reports that were sent. */
export function OwnSeasonPage() {
  const ask: Ask = (athlete, query) => ok(api.GET("/api/own/athletes/{athlete}/season", { params: { path: { athlete }, query } }));
  return (
    <Opens.Provider value={false}>
      <OneSeason whose="own" ask={ask} />
    </Opens.Provider>
  );
}

function OneSeason({
  whose,
  ask,
  pageOf,
  aside,
  children,
}: {
  whose: string;
  ask: Ask;
  pageOf?: (match: string) => string;
  aside?: ReactNode;
  /** What to do where there is no match yet. */
  children?: ReactNode;
}) {
  const { id = "" } = useParams();
  const [split, setSplit] = useState("");
  const season = useQuery({
    queryKey: ["season", whose, id, split],
    queryFn: () => ask(Number(id), split ? { split } : {}),
    placeholderData: (before) => before,
  });
  if (!season.data) {
    return (
      <PaperPage title="The season">
        {season.isPending && <p className="text-slate">Adding up the season…</p>}
        <Problem error={season.error} />
      </PaperPage>
    );
  }
  const { athlete, played, waiting, season: found } = season.data;
  return (
    <PaperPage title={athlete.name} aside={aside ?? <p className="text-slate">{athlete.belt} belt</p>}>
      <Problem error={season.error} />
      {waiting > 0 && (
        <p className="mb-5 border-l-4 border-amber-deep pl-3">
          {waiting === 1 ? "1 match is" : `${waiting} matches are`} still being worked out and will count in a few minutes.
        </p>
      )}
      {found.matches === 0 ? (
        <p>No matches yet. {children}</p>
      ) : (
        <div className="flex flex-col gap-10">
          <Played played={played} found={found} pageOf={pageOf} />
          <ComesBack found={found} played={played} split={split} setSplit={setSplit}>
            {whose === "own" ? "Errors of the matches with a report." : "Errors of all matches."}
          </ComesBack>
          <Works found={found} played={played} />
          <Scored found={found} played={played} />
          <Times found={found} played={played} />
          <Fouls found={found} played={played} />
        </div>
      )}
    </PaperPage>
  );
}

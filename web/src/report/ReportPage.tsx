import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { api, ok, type Report } from "../api/client";
import { Brand } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { Told } from "./Told";

/** Where a report is read from, and what its reader sends back. */
interface Source {
  key: string[];
  /** The address of the report's files. */
  files: string;
  read: () => Promise<Report>;
  answer: (body: { key: string; text: string }) => Promise<Report>;
  tick: (drill: { key: string; done: boolean }) => Promise<Report>;
}

/** The report as whoever has the link sees it: on a phone, signed in nowhere. */
export function SharedReport() {
  const { token = "" } = useParams();
  const params = { path: { token } };
  const source: Source = {
    key: ["shared", token],
    files: `/api/shared/${token}`,
    read: () => ok(api.GET("/api/shared/{token}", { params })),
    answer: (body) => ok(api.POST("/api/shared/{token}/answers", { params, body })),
    tick: ({ key, done }) => ok(api.PUT("/api/shared/{token}/drills/{key}", { params: { path: { token, key } }, body: { done } })),
  };
  const gone = (
    <>
      <h1 className="pt-8 text-2xl font-semibold">This link no longer works</h1>
      <p className="pt-3">It has expired, was revoked or was copied incompletely. Ask your coach for a new one.</p>
    </>
  );
  return (
    <Frame>
      <ReadReport source={source} refused={() => gone} />
    </Frame>
  );
}

/** The same for the athlete or a guardian, signed in. */
export function OwnReport() {
  const { id = "" } = useParams();
  const params = { path: { match: id } };
  const source: Source = {
    key: ["own", id],
    files: `/api/own/reports/${id}`,
    read: () => ok(api.GET("/api/own/reports/{match}", { params })),
    answer: (body) => ok(api.POST("/api/own/reports/{match}/answers", { params, body })),
    tick: ({ key, done }) => ok(api.PUT("/api/own/reports/{match}/drills/{key}", { params: { path: { match: id, key } }, body: { done } })),
  };
  return (
    <Frame>
      <p className="border-b-2 border-rule py-2">
        <Link className="quiet" to="/own">
          All reports
        </Link>
      </p>
      <ReadReport source={source} refused={(error) => <Problem error={error} />} />
    </Frame>
  );
}

function ReadReport({ source, refused }: { source: Source; refused: (error: Error) => ReactNode }) {
  const queries = useQueryClient();
  const report = useQuery({ queryKey: source.key, queryFn: source.read, retry: false });
  const kept = (now: Report) => queries.setQueryData(source.key, now);
  const answer = useMutation({ mutationFn: source.answer, onSuccess: kept });
  const tick = useMutation({ mutationFn: source.tick, onSuccess: kept });
  if (report.isPending) return <p className="py-8 text-slate">Loading the report…</p>;
  if (report.isError) return refused(report.error);
  return (
    <>
      <Told
        report={report.data}
        clips={(cut, part) => `${source.files}/cuts/${cut}/${part}`}
        tick={(key, done) => tick.mutate({ key, done })}
        ticking={tick.isPending ? tick.variables : null}
        answer={(key, text) => answer.mutateAsync({ key, text })}
      />
      <Problem error={answer.error ?? tick.error} />
      <p className="pt-4">
        <a className="quiet" href={`${source.files}/report.pdf`} target="_blank" rel="noreferrer">
          Printable version (PDF)
        </a>
      </p>
    </>
  );
}

/** The same for its coach, before it is sent. */
export function ReportPreview() {
  const { id = "" } = useParams();
  const report = useQuery({
    queryKey: ["report", id],
    queryFn: () => ok(api.GET("/api/matches/{match}/report", { params: { path: { match: id } } })),
    staleTime: 0,
  });
  return (
    <Frame>
      <p className="border-b-2 border-rule py-2 text-slate">
        As the athlete will see it.{" "}
        <a className="quiet" href={`/matches/${id}/review?part=send`}>
          Back to the review
        </a>
      </p>
      {report.data ? (
        <Told report={report.data} clips={(cut, part) => `/api/matches/${id}/cuts/${cut}/${part}`} />
      ) : (
        report.isPending && <p className="py-8 text-slate">Loading the report…</p>
      )}
      <Problem error={report.error} />
    </Frame>
  );
}

function Frame({ children }: { children: ReactNode }) {
  return (
    <div className="paper mx-auto min-h-screen max-w-[640px] px-4 pb-12">
      <header className="pt-3">
        <Brand />
      </header>
      <main>{children}</main>
    </div>
  );
}

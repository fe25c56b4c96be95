import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { api, ok, type Report } from "../api/client";
import { Brand } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { Told } from "./Told";

/** The report as whoever has the link sees it: on a phone, signed in nowhere. */
export function SharedReport() {
  const { token = "" } = useParams();
  const queries = useQueryClient();
  const key = ["shared", token];
  const params = { path: { token } };
  const report = useQuery({
    queryKey: key,
    queryFn: () => ok(api.GET("/api/shared/{token}", { params })),
    retry: false,
  });
  const kept = (now: Report) => queries.setQueryData(key, now);
  const answer = useMutation({
    mutationFn: (body: { key: string; text: string }) => ok(api.POST("/api/shared/{token}/answers", { params, body })),
    onSuccess: kept,
  });
  const tick = useMutation({
    mutationFn: (drill: { key: string; done: boolean }) =>
      ok(
        api.PUT("/api/shared/{token}/drills/{key}", {
          params: { path: { token, key: drill.key } },
          body: { done: drill.done },
        }),
      ),
    onSuccess: kept,
  });
  if (report.isPending)
    return (
      <Frame>
        <p className="py-8 text-slate">Loading the report…</p>
      </Frame>
    );
  if (report.isError) {
    return (
      <Frame>
        <h1 className="pt-8 text-2xl font-semibold">This link no longer works</h1>
        <p className="pt-3">It has expired, was revoked or was copied incompletely. Ask your coach for a new one.</p>
      </Frame>
    );
  }
  return (
    <Frame>
      <Told
        report={report.data}
        clips={(cut, part) => `/api/shared/${token}/cuts/${cut}/${part}`}
        tick={(drill, done) => tick.mutate({ key: drill, done })}
        ticking={tick.isPending ? tick.variables : null}
        answer={(about, text) => answer.mutateAsync({ key: about, text })}
      />
      <Problem error={answer.error ?? tick.error} />
      <p className="pt-4">
        <a className="quiet" href={`/api/shared/${token}/report.pdf`} target="_blank" rel="noreferrer">
          Printable version (PDF)
        </a>
      </p>
    </Frame>
  );
}

/** The same for the athlete or a guardian, signed in. */
export function OwnReport() {
  const { id = "" } = useParams();
  const queries = useQueryClient();
  const params = { path: { match: id } };
  const report = useQuery({ queryKey: ["own", id], queryFn: () => ok(api.GET("/api/own/reports/{match}", { params })) });
  const kept = (now: Report) => queries.setQueryData(["own", id], now);
  const answer = useMutation({
    mutationFn: (body: { key: string; text: string }) => ok(api.POST("/api/own/reports/{match}/answers", { params, body })),
    onSuccess: kept,
  });
  const tick = useMutation({
    mutationFn: ({ key, done }: { key: string; done: boolean }) =>
      ok(api.PUT("/api/own/reports/{match}/drills/{key}", { params: { path: { match: id, key } }, body: { done } })),
    onSuccess: kept,
  });
  return (
    <Frame>
      <p className="border-b-2 border-rule py-2">
        <Link className="quiet" to="/own">
          All reports
        </Link>
      </p>
      {report.isPending && <p className="py-8 text-slate">Loading the report…</p>}
      {report.data && (
        <Told
          report={report.data}
          clips={(cut, part) => `/api/own/reports/${id}/cuts/${cut}/${part}`}
          tick={(key, done) => tick.mutate({ key, done })}
          ticking={tick.isPending ? tick.variables : null}
          answer={(key, text) => answer.mutateAsync({ key, text })}
        />
      )}
      <Problem error={report.error ?? answer.error ?? tick.error} />
      <p className="pt-4">
        <a className="quiet" href={`/api/own/reports/${id}/report.pdf`} target="_blank" rel="noreferrer">
          Printable version (PDF)
        </a>
      </p>
    </Frame>
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

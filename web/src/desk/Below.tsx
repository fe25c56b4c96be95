import { type ReactNode, useMemo } from "react";
import type { Keyed, Technique } from "../api/client";
import { Composer, type Draft } from "./Composer";
import { Details } from "./Details";
import type { Command } from "./keys";
import type { Playhead } from "./playhead";
import type { Log } from "./useLog";

/** Under the picture: the form of what is being logged, its details, or what can follow. */
export function Below({
  draft,
  setDraft,
  asksDetail,
  askDetail,
  run,
  children,
  ...rest
}: Omit<Parameters<typeof Form>[0], "draft" | "close"> & {
  draft: Draft | null;
  setDraft: (draft: Draft | null) => void;
  asksDetail: Keyed | undefined;
  askDetail: (key: string | null) => void;
  run: (command: Command) => void;
  children: ReactNode;
}) {
  const close = () => {
    setDraft(null);
    if (draft?.resume) rest.playhead.play();
  };
  if (draft) return <Form {...rest} draft={draft} close={close} />;
  if (asksDetail) return <Details of={asksDetail} run={run} close={() => askDetail(null)} />;
  return children;
}

/** The form of the observation that is being logged or changed. */
function Form({
  techniques,
  causes,
  draft,
  log,
  playhead,
  choose,
  close,
}: {
  techniques: Technique[];
  causes: string[];
  draft: Draft;
  log: Log;
  playhead: Playhead;
  choose: (key: string | null) => void;
  close: () => void;
}) {
  const { observations } = log;
  const recent = useMemo(() => recentNames(observations, draft.kind === "grip"), [observations, draft]);
  return (
    <Composer
      key={`${draft.key ?? "new"}-${draft.kind}-${draft.t}`}
      draft={draft}
      techniques={techniques}
      recent={recent}
      causes={causes}
      now={() => playhead.now()}
      close={close}
      save={(body, key) => {
        if (key === null) choose(log.add(body));
        else log.put({ ...body, id: key } as Keyed);
        close();
      }}
    />
  );
}

/** Techniques of this log, or grips, the latest first. */
function recentNames(observations: Keyed[], grips: boolean): string[] {
  const names = observations.flatMap((one) =>
    grips ? (one.kind === "grip" ? [one.grip] : []) : "technique" in one && one.technique ? [one.technique] : [],
  );
  return [...new Set(names.reverse())];
}

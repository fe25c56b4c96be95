import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Clip, type Desk as DeskData, type Keyed, ok, type Outlook } from "../api/client";
import { placed, whole } from "../components/parts";
import type { BoardDesk } from "./board/useBoardDesk";
import { Counts } from "./Count";
import { Handle } from "./Handle";
import type { Marks } from "./hands";
import type { Command } from "./keys";
import { Legs } from "./Pad";
import type { Playhead } from "./playhead";
import { Stage } from "./Stage";
import { Transport } from "./Transport";
import type { Log } from "./useLog";
import type { View } from "./view";
import { Who } from "./Who";

interface Props {
  desk: DeskData;
  log: Log;
  playhead: Playhead;
  clip: Clip | null;
  view: View;
  setView: (change: (view: View) => View) => void;
  board: BoardDesk;
  marks: Marks;
  outlook: Outlook | undefined;
  /** The observation that is chosen. */
  picked: Keyed | undefined;
  run: (command: Command) => void;
}

/** Give the match its first clip. */
function useAttach(match: string): (clip: Clip | null) => void {
  const queries = useQueryClient();
  const attach = useMutation({
    mutationFn: (first: Clip) =>
      ok(api.PUT("/api/matches/{match}/parts", { params: { path: { match } }, body: { parts: placed([whole(first)]) } })),
    onSuccess: (laid) => queries.setQueryData(["match", match], laid),
  });
  return (first) => first && attach.mutate(first);
}

/** The picture with what is laid over it, and the line to go to any place of it. */
export function Film({ desk, log, playhead, clip, view, setView, board, marks, outlook, picked, run }: Props) {
  const { match, verdict } = desk;
  const attach = useAttach(match.id);
  const logEnd = log.observations.at(-1)?.t ?? 0;
  return (
    <>
      <Stage clip={clip} playhead={playhead} view={view} setView={setView} attach={attach} over={board.over}>
        <Counts verdict={verdict} match={match} playhead={playhead} />
        <Who match={match} outlook={outlook} />
        <Legs outlook={outlook} run={run} at="picture" />
      </Stage>
      <Transport {...{ playhead, verdict, logEnd, marks, clip, run, board }} match={match.id} length={(match.duration_ms ?? 0) / 1000}>
        {picked && <Handle seen={picked} slide={log.slide} playhead={playhead} />}
      </Transport>
    </>
  );
}

import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { type Running, sendClip, stopUpload } from "../components/upload";

/** One file of several that are uploaded one after the other. */
export interface Sending {
  number: number;
  name: string;
  state: "waiting" | "sending" | "failed";
  /** How much of it is sent, from 0 to 1. */
  share: number;
  trouble: string;
}

/** Uploads files one after the other. A file that is done leaves the list; one that failed stays, with the reason. */
export function useUploads() {
  const [list, setList] = useState<Sending[]>([]);
  const waiting = useRef<{ number: number; file: File }[]>([]);
  const running = useRef<(Running & { number: number }) | null>(null);
  const last = useRef(0);
  const queries = useQueryClient();
  useEffect(() => () => void running.current?.tus?.abort(), []);
  const change = (number: number, part: Partial<Sending>) =>
    setList((now) => now.map((one) => (one.number === number ? { ...one, ...part } : one)));
  const drop = (number: number) => setList((now) => now.filter((one) => one.number !== number));

  const next = async () => {
    const first = waiting.current.shift();
    if (!first) return;
    const { number, file } = first;
    const now = { number, tus: null, clip: null, stopped: false };
    running.current = now;
    change(number, { state: "sending" });
    try {
      await sendClip(file, now, (share) => share !== null && change(number, { share }));
      drop(number);
      for (const name of ["clips", "unused-clips", "waiting"]) void queries.invalidateQueries({ queryKey: [name] });
    } catch (error) {
      if (!now.stopped) change(number, { state: "failed", trouble: error instanceof Error ? error.message : String(error) });
    }
    running.current = null;
    void next();
  };
  const add = (files: File[]) => {
    const taken = files.map((file) => ({ number: ++last.current, file }));
    setList((now) => [
      ...now,
      ...taken.map(({ number, file }) => ({ number, name: file.name, state: "waiting" as const, share: 0, trouble: "" })),
    ]);
    waiting.current.push(...taken);
    if (!running.current) void next();
  };
  const cancel = (number: number) => {
    waiting.current = waiting.current.filter((one) => one.number !== number);
    if (running.current?.number === number) stopUpload(running.current);
    drop(number);
  };
  return { list, add, cancel };
}

// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { ApiError } from "../api/client";
import { useUpload } from "./upload";

interface Options {
  uploadUrl: string;
  onProgress: (bytes: number, all: number) => void;
  onShouldRetry: (error: unknown) => boolean;
  onSuccess: () => void;
  onError: (error: Error) => void;
}

/** The upload's library, which does what a test tells it to. */
const tus = vi.hoisted(() => ({ begun: [] as Options[], aborted: 0 }));
const server = vi.hoisted(() => ({ refuses: null as Error | null, deleted: [] as string[] }));

vi.mock("tus-js-client", () => ({
  DetailedError: class DetailedError extends Error {
    constructor(
      readonly originalResponse: unknown,
      message = "",
    ) {
      super(message);
    }
  },
  Upload: class {
    constructor(
      readonly file: File,
      readonly options: Options,
    ) {}
    start() {
      tus.begun.push(this.options);
    }
    abort() {
      tus.aborted += 1;
    }
  },
}));
vi.mock("../api/client", async (original) => ({
  ...(await original<typeof import("../api/client")>()),
  ok: async (request: Promise<unknown>) => {
    if (server.refuses) throw server.refuses;
    return request;
  },
  api: {
    POST: () => Promise.resolve({ id: "clip" }),
    GET: () => Promise.resolve({ id: "clip", name: "match.mp4", state: "ready" }),
    DELETE: (_: string, { params }: { params: { path: { clip: string } } }) => Promise.resolve(server.deleted.push(params.path.clip)),
  },
}));
const { DetailedError } = (await import("tus-js-client")) as unknown as { DetailedError: new (response: unknown) => Error };

const file = new File(["1234"], "match.mp4");
const response = (status: number, body = "") => ({ getStatus: () => status, getBody: () => body });

function open() {
  const done = vi.fn();
  const queries = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => <QueryClientProvider client={queries}>{children}</QueryClientProvider>;
  return { done, ...renderHook(() => useUpload(done), { wrapper }) };
}

async function begun(hook: ReturnType<typeof open>): Promise<Options> {
  act(() => void hook.result.current.send(file));
  await vi.waitFor(() => expect(tus.begun).toHaveLength(1));
  return tus.begun[0] as Options;
}

beforeEach(() => {
  tus.begun = [];
  tus.aborted = 0;
  server.refuses = null;
  server.deleted = [];
});
afterEach(cleanup);

it("shows how much is sent, then hands the clip over", async () => {
  const hook = open();
  const upload = await begun(hook);
  expect(upload.uploadUrl).toBe("/api/clips/clip/upload");
  act(() => upload.onProgress(1, 4));
  expect(hook.result.current.upload).toEqual({ state: "sending", name: "match.mp4", share: 0.25, waiting: false });
  act(() => upload.onProgress(4, 4));
  expect(hook.result.current.upload).toEqual({ state: "looking", name: "match.mp4" });
  act(() => upload.onSuccess());
  await vi.waitFor(() => expect(hook.done).toHaveBeenCalledWith(expect.objectContaining({ id: "clip" })));
  expect(hook.result.current.upload).toEqual({ state: "idle" });
});

it.each([
  [0, true],
  [409, true],
  [423, true],
  [429, true],
  [500, true],
  [503, true],
  [507, false],
  [413, false],
  [404, false],
])("after %s it is tried again: %s", async (status, again) => {
  const hook = open();
  const upload = await begun(hook);
  expect(upload.onShouldRetry({ originalResponse: status ? response(status) : null })).toBe(again);
});

it("says what the server said against it", async () => {
  const hook = open();
  const upload = await begun(hook);
  act(() => upload.onError(new DetailedError(response(422, JSON.stringify({ code: "no_video", message: "Not a video." })))));
  await vi.waitFor(() =>
    expect(hook.result.current.upload).toMatchObject({ state: "failed", error: { code: "no_video", message: "Not a video." } }),
  );
});

it.each([
  [new Error("gone"), "cut_off"],
  [new DetailedError(response(502, "<html>")), "server"],
])("says so where nothing readable came back", async (error, code) => {
  const hook = open();
  const upload = await begun(hook);
  act(() => upload.onError(error));
  await vi.waitFor(() => expect(hook.result.current.upload).toMatchObject({ state: "failed", error: { code } }));
});

it("refused before a byte is sent, it fails at once", async () => {
  server.refuses = new ApiError(413, "too_large", "Too large.");
  const hook = open();
  act(() => void hook.result.current.send(file));
  await vi.waitFor(() => expect(hook.result.current.upload).toMatchObject({ state: "failed", error: { code: "too_large" } }));
  expect(tus.begun).toEqual([]);
});

it("cancelled, it is thrown away on the server too", async () => {
  const hook = open();
  await begun(hook);
  act(() => hook.result.current.cancel());
  expect([hook.result.current.upload, tus.aborted, server.deleted]).toEqual([{ state: "idle" }, 1, ["clip"]]);
});

// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { ApiError, csrfToken, ok, refusal } from "./client";

const answer = (status: number, data?: unknown, error?: unknown) =>
  Promise.resolve({ data, error, response: new Response(null, { status }) });

describe("an answer", () => {
  it("is its data", async () => expect(await ok(answer(200, { a: 1 }))).toEqual({ a: 1 }));
  it("of an empty success is nothing", async () => expect(await ok(answer(204))).toBeUndefined());
  it("that refuses is thrown, with the fields it names", async () => {
    const faults = [{ path: "t", message: "is missing", code: "missing" }];
    const thrown = await ok(answer(400, undefined, { code: "faulty", message: "t: is missing", faults })).catch((error: unknown) => error);
    expect(thrown).toBeInstanceOf(ApiError);
    expect(thrown).toMatchObject({ status: 400, code: "faulty", message: "t: is missing", faults });
  });
  it.each([undefined, null, "<html>", 7])("of no known shape still says what to do: %s", (body) => {
    expect(refusal(502, body)).toMatchObject({ status: 502, code: "server", faults: [] });
    expect(refusal(502, body).message).toContain("try again");
  });
});

it("the token comes out of the cookies", () => {
  document.cookie = "other=1";
  document.cookie = "csrftoken=abc123";
  expect(csrfToken()).toBe("abc123");
});

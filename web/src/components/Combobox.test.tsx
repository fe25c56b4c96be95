// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { type ComponentProps, useState } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Combobox } from "./Combobox";

afterEach(cleanup);

const ALL = ["Armbar", "Armlock", "Kneebar"].map((name) => ({ id: name.toLowerCase(), name }));

function open(enter: ComponentProps<typeof Combobox>["enter"], ask = false) {
  const take = vi.fn();
  const sent = vi.fn((event: Event) => event.preventDefault());
  function Form() {
    const [text, setText] = useState("");
    const options = text ? ALL.filter((one) => one.name.toLowerCase().includes(text)) : [];
    return (
      <form onSubmit={(event) => sent(event.nativeEvent)}>
        <Combobox
          label="Technique"
          labelClass=""
          list="Techniques"
          value={text}
          type={setText}
          options={options}
          ask={ask}
          take={(one) => {
            take(one.id);
            if (enter !== "nothing") setText(one.id);
          }}
          enter={enter}
          input={{}}
          listClass=""
          optionClass={(lit) => (lit ? "lit" : "")}
          option={(one) => one.name}
          below={(one) => <p>{one?.name ?? "nothing"}</p>}
        />
        <button type="submit">Log it</button>
      </form>
    );
  }
  render(<Form />);
  const field = screen.getByRole("combobox", { name: "Technique" });
  const type = (text: string) => fireEvent.change(field, { target: { value: text } });
  const press = (key: string) => fireEvent.keyDown(field, { key });
  const options = () =>
    screen.queryAllByRole("option").map((one) => `${one.textContent ?? ""}${one.getAttribute("aria-selected") === "true" ? " *" : ""}`);
  return { take, sent, field, type, press, options };
}

describe("a combobox", () => {
  it("lights the best of what fits, and the arrows walk through it", () => {
    const { type, press, options, field } = open("takes");
    expect([options(), field.getAttribute("aria-expanded")]).toEqual([[], "false"]);
    type("arm");
    expect([options(), field.getAttribute("aria-expanded")]).toEqual([["Armbar *", "Armlock"], "true"]);
    press("ArrowDown");
    expect(options()).toEqual(["Armbar", "Armlock *"]);
    type("armb"); // what is typed lights the best again
    expect(options()).toEqual(["Armbar *"]);
  });

  it("takes the lit one with Enter, and leaves the form where it is", () => {
    const { type, press, take, sent } = open("takes");
    type("arm");
    press("ArrowDown");
    press("Enter");
    expect(take.mock.calls).toEqual([["armlock"]]);
    expect(sent).not.toHaveBeenCalled();
  });

  it("leaves the form where it is with a name that nothing was found for", () => {
    const { type, press, take } = open("takes");
    type("zzz");
    expect(press("Enter")).toBe(false); // the browser would send the form
    type("");
    expect(press("Enter")).toBe(true);
    expect(take).not.toHaveBeenCalled();
  });

  it("takes nothing with Enter where that is not asked for, and what is clicked stays lit", () => {
    const { type, press, take, options } = open("nothing");
    type("arm");
    press("Enter");
    expect(take).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole("option", { name: "Armlock" }));
    expect(options()).toEqual(["Armbar", "Armlock *"]);
  });

  it("takes nothing by being left, nor by the pointer passing over it", () => {
    const { type, take, field, options } = open("takes");
    type("arm");
    fireEvent.mouseMove(screen.getByRole("option", { name: "Armlock" }));
    fireEvent.blur(field);
    expect([take.mock.calls, options()]).toEqual([[], ["Armbar *", "Armlock"]]);
    expect((field as HTMLInputElement).value).toBe("arm");
  });

  it("lights nothing, and sends nothing, where it has to be said which one is meant", () => {
    const { take, type, press, options } = open("sends", true);
    type("arm");
    expect(options()).toEqual(["Armbar", "Armlock"]);
    press("Enter");
    expect(take).not.toHaveBeenCalled();
    press("ArrowDown");
    expect(options()).toEqual(["Armbar *", "Armlock"]);
    press("Enter");
    expect(take).toHaveBeenCalledWith("armbar");
  });
});

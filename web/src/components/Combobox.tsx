import { useCombobox } from "downshift";
import { type ComponentProps, type ReactNode, useState } from "react";
import { flushSync } from "react-dom";

interface Named {
  id: string;
  name: string;
}

interface Props<T extends Named> {
  label: ReactNode;
  labelClass: string;
  /** What the options are called together. */
  list: string;
  value: string;
  type: (value: string) => void;
  /** What fits what is typed, the best first. */
  options: T[];
  take: (one: T) => void;
  /** Whether there is something to choose yet. */
  open?: boolean;
  /** Whether what is typed may mean any of the options: then none is lit, and Enter takes none, before one is picked. */
  ask?: boolean;
  /** Whether none is lit before one is picked, though Enter may send what is in the field: nothing is typed yet. */
  idle?: boolean;
  /** What Enter does: take the lit option, take it and send the form that the field is in, or nothing. */
  enter: "takes" | "sends" | "nothing";
  input: ComponentProps<"input">;
  listClass: string;
  optionClass: (lit: boolean) => string;
  option: (one: T) => ReactNode;
  /** What is shown of the option that is lit: between the field and the list, and below it. */
  between?: (lit: T | undefined) => ReactNode;
  below?: (lit: T | undefined) => ReactNode;
}

const { InputBlur, ItemMouseMove, MenuMouseLeave } = useCombobox.stateChangeTypes;
/** Leaving the field takes nothing, and the pointer lights nothing by passing over it. */
const INERT = new Set<unknown>([InputBlur, ItemMouseMove, MenuMouseLeave]);

/**
 * A field for a name, and the few options that fit what is typed: the arrows walk through them, a click takes one.
 * Finding them is the caller's; the field keeps the keyboard.
 */
export function Combobox<T extends Named>(props: Props<T>) {
  const { value, type, options, take, open = true, ask = false, idle = false, enter, list } = props;
  const [picked, setPicked] = useState<number | null>(null);
  const at = Math.min(picked ?? (ask || idle ? -1 : 0), options.length - 1);
  const one = options[at];
  const choose = (chosen: T, index: number) => {
    take(chosen);
    // Where taking one changes nothing of the list, it stays lit.
    setPicked(enter === "nothing" ? index : null);
  };
  const combobox = useCombobox<T>({
    items: options,
    inputValue: value,
    selectedItem: null,
    isOpen: open && options.length > 0,
    highlightedIndex: at,
    itemToString: (item) => item?.name ?? "",
    itemToKey: (item) => item?.id,
    onHighlightedIndexChange: ({ highlightedIndex }) => highlightedIndex >= 0 && setPicked(highlightedIndex),
    stateReducer: (state, { type, changes }) => (INERT.has(type) ? state : changes),
  });
  return (
    <>
      <label className={props.labelClass} {...combobox.getLabelProps()}>
        {props.label}
        <input
          {...combobox.getInputProps({
            ...props.input,
            spellCheck: false,
            onChange: (event) => {
              type(event.currentTarget.value);
              setPicked(null);
            },
            onKeyDown: (event) => {
              if (event.key !== "Enter") return;
              (event.nativeEvent as { preventDownshiftDefault?: boolean }).preventDownshiftDefault = true;
              const unfinished = enter === "takes" && event.currentTarget.value !== "";
              if ((ask && !one) || unfinished) event.preventDefault(); // the form is not sent without what was being typed
              if (enter === "nothing" || !open || !one) return;
              // One Enter takes the lit name and sends it: the form goes with the name in place.
              flushSync(() => choose(one, at));
            },
          })}
        />
      </label>
      {props.between?.(one)}
      <div {...combobox.getMenuProps({ "aria-label": list, className: props.listClass, hidden: !open })}>
        {open &&
          options.map((item, index) => (
            <div
              key={item.id}
              {...combobox.getItemProps({ item, index, onClick: () => choose(item, index), className: props.optionClass(index === at) })}
            >
              {props.option(item)}
            </div>
          ))}
      </div>
      {props.below?.(one)}
    </>
  );
}

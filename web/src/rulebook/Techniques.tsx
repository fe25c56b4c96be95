import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api, ok } from "../api/client";
import { Combobox } from "../components/Combobox";
import { plain, searcher } from "../components/search";

/** Techniques out of the catalogue, found by any name. */
export function Techniques({ label, names, set }: { label: string; names: string[]; set: (names: string[]) => void }) {
  const catalogue = useQuery({
    queryKey: ["techniques", "catalogue"],
    queryFn: () => ok(api.GET("/api/techniques", { params: { query: { age: 25, belt: "black", attire: "nogi" } } })),
    staleTime: Infinity,
  });
  const [text, setText] = useState("");
  const search = useMemo(() => searcher(catalogue.data ?? []), [catalogue.data]);
  const found = plain(text) ? search(text, 4).filter((one) => !names.includes(one.id)) : [];
  return (
    <div>
      <Combobox
        label={<span className="mb-0.5 block font-semibold">{label}</span>}
        labelClass="block"
        list={`${label}: found`}
        value={text}
        type={setText}
        options={found}
        take={(one) => {
          set([...names, one.id]);
          setText("");
        }}
        enter="takes"
        input={{ className: "field", placeholder: "add a technique by any name" }}
        listClass="flex flex-wrap gap-3"
        optionClass={(lit) => `cursor-pointer underline ${lit ? "font-semibold" : ""}`}
        option={(one) => one.name}
      />
      <ul className="flex flex-wrap gap-x-4">
        {names.map((name) => (
          <li key={name}>
            {catalogue.data?.find((one) => one.id === name)?.name ?? name}{" "}
            <button
              type="button"
              className="quiet text-[15px] whitespace-nowrap"
              aria-label={`Remove ${name}`}
              onClick={() => set(names.filter((one) => one !== name))}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

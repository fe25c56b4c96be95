import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, ok } from "../api/client";
import { Problem } from "../components/Problem";
import type { Asked } from "../components/asked";
import { DivisionPicker } from "./DivisionPicker";
import { Standing } from "./Standing";

function useDifferences(asked: Asked, other: Asked) {
  const query = {
    ...asked,
    other_age: other.age,
    other_belt: other.belt,
    other_attire: other.attire,
    other_ruleset: other.ruleset,
  };
  return useQuery({
    queryKey: ["differences", query],
    queryFn: () => ok(api.GET("/api/division/differences", { params: { query } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
}

/** Two divisions, or two rulesets, side by side: only what they do not have in common. */
export function Differences({
  asked,
  other,
  set,
  close,
}: {
  asked: Asked;
  other: Asked;
  set: (change: Partial<Asked>) => void;
  close: () => void;
}) {
  const found = useDifferences(asked, other);
  const same = found.data && found.data.scoring.length === 0 && found.data.techniques.length === 0;
  return (
    <section className="mt-6 border-y-2 border-rule py-5" aria-label="Differences">
      <div className="flex flex-wrap items-baseline gap-6 pb-3">
        <h2 className="text-2xl font-semibold">Compared with</h2>
        <button type="button" className="quiet ml-auto" onClick={close}>
          Close the comparison
        </button>
      </div>
      <DivisionPicker asked={other} set={set} name="The other division" />
      <Problem error={found.error} />
      {same && <p className="pt-5">No differences.</p>}
      {found.data && !same && <Table found={found.data} />}
    </section>
  );
}

type Found = NonNullable<ReturnType<typeof useDifferences>["data"]>;

function Table({ found }: { found: Found }) {
  return (
    <table className="mt-5 w-full border-collapse">
      <thead>
        <tr className="border-b-2 border-rule text-left align-bottom">
          <th scope="col" className="w-1/5 py-1 pr-4">
            <span className="sr-only">What</span>
          </th>
          {found.sides.map((side, index) => (
            <th key={index} scope="col" className="w-2/5 py-1 pr-4">
              {side.ruleset}
              <span className="block font-normal text-slate">{side.division}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {found.scoring.map((rule) => (
          <tr key={rule.topic} className="border-b border-rule align-top">
            <th scope="row" className="py-1.5 pr-4 text-left">
              {rule.topic}
            </th>
            {rule.texts.map((text, index) => (
              <td key={index} className="py-1.5 pr-4">
                {text}
              </td>
            ))}
          </tr>
        ))}
        {found.techniques.map((one) => (
          <tr key={one.id} className="border-b border-rule">
            <th scope="row" className="py-1 pr-4 text-left font-normal">
              {one.name}
            </th>
            {one.statuses.map((status, index) => (
              <td key={index} className="py-1 pr-4">
                <Standing status={status} small />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

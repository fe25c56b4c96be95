import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type HouseRules, ok, type Ruleset } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useHouseRules, useRulesets } from "../api/rulesets";
import { type Draft, RulesEditor } from "./RulesEditor";
import type { Settings } from "./settings";
import { TryOn } from "./TryOn";

/** A coach's own rulesets: made from a preset, tried, saved as versions, shared, written to and read from files. */
export function HouseRulesPage() {
  const house = useHouseRules();
  const presets = useRulesets();
  const queries = useQueryClient();
  const [draft, setDraft] = useState<Draft | null>(null);
  const refresh = () => queries.invalidateQueries({ queryKey: ["house-rules"] });
  const read = useMutation({
    mutationFn: (rules: unknown) => ok(api.POST("/api/house-rules", { body: { rules, shared: false } })),
    onSuccess: refresh,
  });
  const share = useMutation({
    mutationFn: ({ id, shared }: HouseRules) =>
      ok(api.PATCH("/api/house-rules/{rules}", { params: { path: { rules: id } }, body: { shared: !shared } })),
    onSuccess: refresh,
  });
  const remove = useMutation({
    mutationFn: ({ id }: HouseRules) => ok(api.DELETE("/api/house-rules/{rules}", { params: { path: { rules: id } } })),
    onSuccess: refresh,
  });
  const families = [...new Set(house.data?.map((one) => one.family))].map(
    (family) => house.data?.filter((one) => one.family === family) ?? [],
  );
  return (
    <PaperPage title="House rules">
      <p className="max-w-2xl pb-4">
        If an event has its own rules, adapt a preset here. Each match keeps the version it was scored under. The event&rsquo;s own
        rulebook, its referees and its licensed medical staff decide.
      </p>
      <Beginning presets={presets.data ?? []} begin={(preset) => setDraft(fromPreset(preset))} read={read.mutate} />
      <Problem error={read.error ?? share.error ?? remove.error ?? house.error} />
      {draft && (
        <RulesEditor
          key={`${draft.family}-${draft.extends}-${draft.title}`}
          draft={draft}
          presets={presets.data ?? []}
          done={() => setDraft(null)}
        />
      )}
      {house.data?.length === 0 && !draft && (
        <p className="border-t-2 border-rule py-4 text-slate">None yet. Start from the preset closest to the event&rsquo;s rules.</p>
      )}
      <ul className="mt-4 border-t-2 border-rule">
        {families.map(
          (versions) =>
            versions[0] && (
              <Family
                key={versions[0].family}
                versions={versions}
                share={share.mutate}
                remove={remove.mutate}
                edit={(rules) => setDraft(fromRules(rules))}
              />
            ),
        )}
      </ul>
    </PaperPage>
  );
}

/** House rules begin from a preset, or come from a file. */
function Beginning({ presets, begin, read }: { presets: Ruleset[]; begin: (preset: Ruleset) => void; read: (rules: unknown) => void }) {
  const [unread, setUnread] = useState<Error | null>(null);
  const open = async (file: File) => {
    setUnread(null);
    try {
      read(JSON.parse(await file.text()));
    } catch {
      setUnread(new Error(`${file.name} is not JSON. Choose a file of house rules.`));
    }
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-5 pb-4">
        <label className="flex items-center gap-3">
          <span className="font-semibold">Start from</span>
          <select
            className="field w-auto!"
            value=""
            onChange={(event) => {
              const preset = presets.find((one) => one.id === event.target.value);
              if (preset) begin(preset);
            }}
          >
            <option value="">a preset…</option>
            {presets.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </select>
        </label>
        <label className="has-focus-visible:outline-2">
          <span className="quiet">Import house rules</span>
          <input
            type="file"
            accept=".json"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) void open(file);
            }}
          />
        </label>
      </div>
      <Problem error={unread} />
    </>
  );
}

/** The versions of one set of house rules, the latest first. */
function Family({
  versions,
  share,
  remove,
  edit,
}: {
  versions: HouseRules[];
  share: (rules: HouseRules) => void;
  remove: (rules: HouseRules) => void;
  edit: (rules: HouseRules) => void;
}) {
  const [latest, ...earlier] = versions;
  if (!latest) return null;
  return (
    <li className="border-b border-rule py-3" data-testid="house-rules">
      <Version rules={latest} share={share} remove={remove} edit={edit} />
      {earlier.length > 0 && (
        <details className="pt-1 pl-6">
          <summary className="text-slate">earlier versions</summary>
          {earlier.map((one) => (
            <Version key={one.id} rules={one} share={share} remove={remove} edit={null} />
          ))}
        </details>
      )}
    </li>
  );
}

function Version({
  rules,
  share,
  remove,
  edit,
}: {
  rules: HouseRules;
  share: (rules: HouseRules) => void;
  remove: (rules: HouseRules) => void;
  edit: ((rules: HouseRules) => void) | null;
}) {
  const [trying, setTrying] = useState(false);
  return (
    <div className="py-1">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <span className="font-serif text-xl">{rules.title}</span>
        <span className="text-slate">
          version {rules.version}
          {rules.own ? (rules.shared ? ", shared with the club" : "") : `, shared by ${rules.owner}`}
        </span>
        <span className="ml-auto flex flex-wrap gap-4">
          <button type="button" className="quiet" aria-expanded={trying} onClick={() => setTrying(!trying)}>
            Try
          </button>
          {edit && (
            <button type="button" className="quiet" onClick={() => edit(rules)}>
              {rules.own ? "New version" : "Make my own copy"}
            </button>
          )}
          <a className="quiet" href={`/api/house-rules/${rules.id}/file`} download>
            File
          </a>
          {rules.own && (
            <button type="button" className="quiet" onClick={() => share(rules)}>
              {rules.shared ? "Stop sharing" : "Share"}
            </button>
          )}
          {rules.own && (
            <button type="button" className="quiet" onClick={() => remove(rules)}>
              Delete
            </button>
          )}
        </span>
      </div>
      {rules.note && <p className="italic">{rules.note}</p>}
      {rules.without_effect.map((said) => (
        <p key={said} className="border-l-4 border-amber-deep pl-3">
          {said}
        </p>
      ))}
      {trying && <TryOn ruleset={rules.body} keep />}
    </div>
  );
}

function fromPreset(preset: Ruleset): Draft {
  return { title: "", extends: preset.id, settings: preset.settings as Settings, family: null, shared: false };
}

function fromRules(rules: HouseRules): Draft {
  const body = rules.body as { extends: string };
  return {
    title: rules.title,
    extends: body.extends,
    settings: rules.settings as Settings,
    family: rules.own ? rules.family : null,
    shared: rules.own && rules.shared === true,
  };
}

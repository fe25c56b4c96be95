import { useContext } from "react";
import type { OfMove, Season, SeasonFigures, Tried } from "../api/client";
import { Behind, Opens } from "../components/Moments";
import { percent } from "../components/words";
import { ShareBar, Title } from "./parts";

/** How much of what was tried worked, for either side, by technique and by where it began. */
export function Works({ found, played }: { found: SeasonFigures; played: Season["played"] }) {
  const opens = useContext(Opens);
  const tried = found.moves.filter((one) => one.whole.share.of > 0);
  return (
    <section>
      <Title>What works</Title>
      <p className="pb-3 text-slate">
        How much of what was tried worked. The bar shows where the true share lies, nine times in ten: a short bar is a sure figure.{" "}
        {opens && "Click a number to see what is behind it."}
      </p>
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-2">
        {(["a", "b"] as const).map((by) => (
          <div key={by}>
            <h3 className="font-semibold">{by === "a" ? "By the athlete" : "By the opponents"}</h3>
            {tried
              .filter((one) => one.by === by)
              .map((one) => (
                <OneMove key={one.move} one={one} played={played} />
              ))}
          </div>
        ))}
      </div>
    </section>
  );
}

function OneMove({ one, played }: { one: OfMove; played: Season["played"] }) {
  const { towards } = one.whole;
  return (
    <div className="border-b border-rule py-2">
      <Row tried={one.whole} played={played} side={one.by} strong />
      {towards && (
        <p className="text-slate">
          With so few, and the club as it is: about {percent(towards.estimate)}, between {percent(towards.low)} and {percent(towards.high)}.
        </p>
      )}
      {one.techniques.length + one.places.length > 0 && (
        <details>
          <summary className="cursor-pointer text-slate">by technique, and from where</summary>
          {one.techniques.map((tried) => (
            <Row key={tried.name} tried={tried} played={played} side={one.by} />
          ))}
          {one.places.map((tried) => (
            <Row key={tried.name} name={`from ${tried.name.replaceAll("_", " ")}`} tried={tried} played={played} side={one.by} />
          ))}
        </details>
      )}
    </div>
  );
}

function Row({
  tried,
  name = tried.name,
  played,
  side,
  strong = false,
}: {
  tried: Tried;
  name?: string;
  played: Season["played"];
  side: OfMove["by"];
  strong?: boolean;
}) {
  const { share } = tried;
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-4 py-0.5 sm:grid-cols-[11rem_1fr_auto]">
      <span className={strong ? "font-semibold" : "pl-4"}>{name}</span>
      <span className="max-sm:order-last max-sm:col-span-2">
        <ShareBar share={share} said={share.said} colour={side === "a" ? "bg-amber" : "bg-sea"} />
      </span>
      <span className="w-40 text-right">
        <Behind words={`${share.done} worked`} title={`${name} that worked`} moments={tried.done} played={played} />,{" "}
        <Behind words={`${share.of - share.done} not`} title={`${name} that did not`} moments={tried.failed} played={played} />
      </span>
    </div>
  );
}

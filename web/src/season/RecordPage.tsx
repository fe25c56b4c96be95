import { useQuery } from "@tanstack/react-query";
import { api, type Against, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { matchesWords } from "../components/words";
import { ShareBar, Title } from "./parts";

const KINDS = { points: "Points", advantages: "Advantages", penalties: "Penalties" };

/** One's own record as a scorer: against the officials, against second scorers, and how it develops. */
export function RecordPage() {
  const record = useQuery({ queryKey: ["scorer-record"], queryFn: () => ok(api.GET("/api/scorer-record")) });
  const found = record.data;
  return (
    <PaperPage title="Your record as a scorer">
      <p className="max-w-3xl pb-6 text-slate">
        Only you see this. An award counts as agreed where the other gave the same to the same side at about the same time. The bars show
        where the true share lies, nine times in ten.
      </p>
      <Problem error={record.error} />
      {found && (
        <div className="flex flex-col gap-10">
          <div className="grid gap-x-12 gap-y-8 md:grid-cols-2">
            <Held title="Against the officials" against={found.officials}>
              No match that you scored has calls of the officials. Log them with “Call” at the desk.
            </Held>
            <Held title="Against second scorers" against={found.seconds}>
              No second score of a match was submitted yet. Ask for one under People at the desk.
            </Held>
          </div>
          {found.quarters.length > 0 && (
            <section className="max-w-3xl">
              <Title>How it develops</Title>
              {found.quarters.map((one) => (
                <Bar key={one.months} name={one.months} share={one.share} />
              ))}
            </section>
          )}
          <section className="max-w-3xl">
            <Title>What you were not sure of</Title>
            <Bar name="Marked as unsure" share={found.unsure} />
            <p className="pt-1 text-slate">Of everything you logged in {matchesWords(found.matches)}.</p>
          </section>
        </div>
      )}
    </PaperPage>
  );
}

function Held({ title, against, children }: { title: string; against: Against; children: string }) {
  return (
    <section>
      <Title>{title}</Title>
      {against.matches === 0 ? (
        <p>{children}</p>
      ) : (
        <>
          <p className="pb-2 text-slate">From {matchesWords(against.matches)}.</p>
          {against.agreement.map((one) => (
            <Bar key={one.kind} name={KINDS[one.kind]} share={one.share} />
          ))}
          <p className="pt-3">{against.late}</p>
          {against.held && <p className="pt-2">{against.held}</p>}
        </>
      )}
    </section>
  );
}

function Bar({ name, share }: { name: string; share: Against["agreement"][number]["share"] }) {
  return (
    <div className="grid items-center gap-x-4 border-b border-rule py-1.5 sm:grid-cols-[11rem_1fr]">
      <span className="font-semibold">{name}</span>
      <span>
        <ShareBar share={share} said={share.said} />
        <span className="text-slate">{share.said}</span>
      </span>
    </div>
  );
}

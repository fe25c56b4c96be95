import { useQuery } from "@tanstack/react-query";
import { api, ok } from "../api/client";
import { Field, OneForm } from "../components/OneForm";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useDoing } from "../components/useDoing";
import { dayOf } from "../components/words";

const KEY = ["clubs"];

/** For who looks after the installation: its clubs, and a further one. What is in a club is its members' alone. */
export function InstallationPage() {
  const clubs = useQuery({ queryKey: KEY, queryFn: () => ok(api.GET("/api/clubs")) });
  const found = useDoing(KEY, (name: string) => ok(api.POST("/api/clubs", { body: { name } })));
  const session = useDoing(["session"], () => Promise.resolve());
  return (
    <PaperPage title="Clubs of this installation">
      <Problem error={clubs.error} />
      <div className="grid gap-10 md:grid-cols-[1fr_320px]">
        <ul>
          {clubs.data?.map((club) => (
            <li key={club.id} className="flex items-baseline gap-4 border-b border-rule py-2">
              <span className="flex-1">{club.name}</span>
              <span className="text-slate">
                {club.members === 1 ? "1 member" : `${club.members} members`}, since {dayOf(club.created)}
              </span>
            </li>
          ))}
        </ul>
        <section>
          <h2 className="mb-3 border-b-2 border-rule pb-1 font-serif text-xl font-semibold">A further club</h2>
          <OneForm
            act="Found the club"
            busy={found.isPending}
            error={found.error}
            submit={(said) => found.mutate(said["name"] ?? "", { onSuccess: () => session.mutate(undefined) })}
          >
            <Field text="Name" name="name" maxLength={80} />
            <p className="text-slate">
              You are its head coach at first. Switch to it at the top right, invite its own head coach, and then remove yourself.
            </p>
          </OneForm>
          {found.isSuccess && <p role="status">The club is founded.</p>}
        </section>
      </div>
    </PaperPage>
  );
}

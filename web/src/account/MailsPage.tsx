import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ok } from "../api/client";
import { Problem } from "../components/Problem";

const EVERY_MS = 3000;

/** The simulated post office: what a demo, or an installation without a mail server, has sent. */
export function MailsPage() {
  const mails = useQuery({ queryKey: ["mails"], queryFn: () => ok(api.GET("/api/mails")), refetchInterval: EVERY_MS });
  return (
    <main className="paper mx-auto min-h-screen max-w-3xl px-4 py-8 sm:px-8">
      <p>
        <Link className="quiet" to="/">
          Back to Jurata
        </Link>
      </p>
      <h1 className="mt-4 mb-2 text-[34px] font-semibold">Mails</h1>
      <p className="mb-6 text-slate">No mail server is set up, so mails are kept here, the latest first.</p>
      <Problem error={mails.error} />
      {mails.data?.length === 0 && <p>Nothing was sent yet.</p>}
      {mails.data?.map((mail) => (
        <article key={mail.id} className="mb-4 border-t-2 border-rule pt-3">
          <h2 className="font-semibold">{mail.subject}</h2>
          <p className="text-slate">
            to {mail.to}, {new Date(mail.at).toLocaleString()}
          </p>
          <p className="mt-2 whitespace-pre-wrap">{linked(mail.body)}</p>
        </article>
      ))}
    </main>
  );
}

const ADDRESS = /(https?:\/\/\S+)/;

/** A text with its addresses as links. */
function linked(text: string) {
  return text.split(ADDRESS).map((part, index) =>
    ADDRESS.test(part) ? (
      <a key={index} className="quiet break-all" href={part}>
        {part}
      </a>
    ) : (
      part
    ),
  );
}

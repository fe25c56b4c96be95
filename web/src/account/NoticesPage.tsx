import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link } from "react-router";
import { api, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";

const WHEN = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });

/** What one was given notice of, the latest first. Opening the page marks all as read. */
export function NoticesPage() {
  const queries = useQueryClient();
  const notices = useQuery({ queryKey: ["notices"], queryFn: () => ok(api.GET("/api/notices")), staleTime: 0 });
  const { mutate } = useMutation({
    mutationFn: () => ok(api.PUT("/api/notices/read")),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["session"] }),
  });
  const unread = notices.data?.some((one) => !one.read) ?? false;
  useEffect(() => {
    if (unread) mutate();
  }, [mutate, unread]);
  return (
    <PaperPage
      title="Notices"
      aside={
        <Link className="quiet" to="/account">
          Choose your notices
        </Link>
      }
    >
      <Problem error={notices.error} />
      {notices.data?.length === 0 && <p>No notices yet. They appear here when someone replies, submits or gives you something.</p>}
      <ul className="max-w-3xl">
        {notices.data?.map((one) => (
          <li key={one.id} className="border-b border-rule py-3">
            <Link to={one.path} className={`hover:underline ${one.read ? "" : "font-semibold"}`}>
              {one.text}
            </Link>
            <span className="block text-slate">{WHEN.format(new Date(one.at))}</span>
          </li>
        ))}
      </ul>
    </PaperPage>
  );
}

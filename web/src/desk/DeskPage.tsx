import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { api, type Desk as Data, ok } from "../api/client";
import { Problem } from "../components/Problem";
import { latest } from "./changed";
import { Desk } from "./Desk";

export function DeskPage() {
  const { id = "" } = useParams();
  const desk = useQuery({
    queryKey: ["match", id],
    queryFn: () => ok(api.GET("/api/matches/{match}", { params: { path: { match: id } } })),
    refetchOnWindowFocus: false,
    structuralSharing: (before, now) => latest(before as Data | undefined, now as Data),
  });
  if (desk.data) return <Desk key={desk.data.match.id} desk={desk.data} />;
  return (
    <div className="min-h-screen bg-night p-8 text-bone">
      {desk.isPending && <p>Setting up the desk…</p>}
      <Problem dark error={desk.error} />
      <p className="mt-4">
        <Link className="quiet" to="/">
          Back to your matches
        </Link>
      </p>
    </div>
  );
}

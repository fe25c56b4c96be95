import { lazy, Suspense } from "react";
import { BrowserRouter, Link, Route, Routes } from "react-router";
import { Athletes } from "./athletes/Athletes";
import { SideBySide } from "./audit/SideBySide";
import { PaperPage } from "./components/PaperPage";
import { Problem } from "./components/Problem";
import { DeskPage } from "./desk/DeskPage";
import { Deleted } from "./matches/Deleted";
import { MatchList } from "./matches/MatchList";
import { NewMatch } from "./matches/NewMatch";
import { Several } from "./matches/Several";
import { ReportPreview, SharedReport } from "./report/ReportPage";
import { DrillPage } from "./rulebook/DrillPage";
import { HouseRulesPage } from "./rulebook/HouseRulesPage";
import { KindsPage } from "./review/KindsPage";
import { RulebookPage } from "./rulebook/RulebookPage";
import { SignIn } from "./session/SignIn";
import { useSession } from "./api/session";

// Only the review draws charts, and they are large.
const ReviewPage = lazy(() => import("./review/ReviewPage").then((found) => ({ default: found.ReviewPage })));

export function App() {
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/r/:token" element={<SharedReport />} />
        <Route path="*" element={<SignedIn />} />
      </Routes>
    </BrowserRouter>
  );
}

function SignedIn() {
  const session = useSession();
  if (session.isPending) return <p className="p-8 text-slate">Opening Jurata…</p>;
  if (session.isError) {
    return (
      <div className="paper mx-auto max-w-xl p-8">
        <Problem error={session.error} />
        <button type="button" className="act mt-4" onClick={() => void session.refetch()}>
          Try again
        </button>
      </div>
    );
  }
  if (session.data.name === null) return <SignIn />;
  return (
    <Routes>
      <Route path="/" element={<MatchList />} />
      <Route path="/athletes" element={<Athletes />} />
      <Route path="/rulebook" element={<RulebookPage />} />
      <Route path="/rulebook/drill" element={<DrillPage />} />
      <Route path="/rulebook/house" element={<HouseRulesPage />} />
      <Route path="/matches/new" element={<NewMatch />} />
      <Route path="/matches/several" element={<Several />} />
      <Route path="/matches/deleted" element={<Deleted />} />
      <Route path="/matches/:id" element={<DeskPage />} />
      <Route
        path="/matches/:id/review"
        element={
          <Suspense
            fallback={
              <PaperPage title="Review">
                <p className="text-slate">Loading the match…</p>
              </PaperPage>
            }
          >
            <ReviewPage />
          </Suspense>
        }
      />
      <Route path="/review-settings" element={<KindsPage />} />
      <Route path="/matches/:id/report" element={<ReportPreview />} />
      <Route path="/matches/:id/seconds/:second" element={<SideBySide />} />
      <Route path="*" element={<Nothing />} />
    </Routes>
  );
}

function Nothing() {
  return (
    <PaperPage title="Page not found">
      <p>
        There is no page at this address.{" "}
        <Link className="quiet" to="/">
          Go to your matches.
        </Link>
      </p>
    </PaperPage>
  );
}

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
import { OwnPlace } from "./own/OwnPlace";
import { OwnReport, ReportPreview, SharedReport } from "./report/ReportPage";
import { KindsPage } from "./review/KindsPage";
import { DrillPage } from "./rulebook/DrillPage";
import { HouseRulesPage } from "./rulebook/HouseRulesPage";
import { RulebookPage } from "./rulebook/RulebookPage";
import { ConfirmPage, InvitationPage, ResetPage, SignUpPage } from "./session/ByLink";
import { LinkIn, SignIn } from "./session/SignIn";
import { MailsPage } from "./account/MailsPage";
import { useMay, useSession } from "./api/session";

// What not everybody opens is loaded when it is opened; the review draws charts, and they are large.
const ReviewPage = lazy(() => import("./review/ReviewPage").then((found) => ({ default: found.ReviewPage })));
const Several = lazy(() => import("./matches/Several").then((found) => ({ default: found.Several })));
const ClubPage = lazy(() => import("./club/ClubPage").then((found) => ({ default: found.ClubPage })));
const JournalPage = lazy(() => import("./club/JournalPage").then((found) => ({ default: found.JournalPage })));
const SeasonPage = lazy(() => import("./season/SeasonPage").then((found) => ({ default: found.SeasonPage })));
const OwnSeasonPage = lazy(() => import("./season/SeasonPage").then((found) => ({ default: found.OwnSeasonPage })));
const ClubSeasonPage = lazy(() => import("./season/ClubSeasonPage").then((found) => ({ default: found.ClubSeasonPage })));
const ImportPage = lazy(() => import("./season/ImportPage").then((found) => ({ default: found.ImportPage })));
const RecordPage = lazy(() => import("./season/RecordPage").then((found) => ({ default: found.RecordPage })));
const DrillsPage = lazy(() => import("./training/DrillsPage").then((found) => ({ default: found.DrillsPage })));
const PlanPage = lazy(() => import("./training/PlanPage").then((found) => ({ default: found.PlanPage })));
const OwnPlansPage = lazy(() => import("./training/ReadPlan").then((found) => ({ default: found.OwnPlansPage })));
const SharedPlan = lazy(() => import("./training/ReadPlan").then((found) => ({ default: found.SharedPlan })));
const DaysPage = lazy(() => import("./events/DaysPage").then((found) => ({ default: found.DaysPage })));
const DayPage = lazy(() => import("./events/DayPage").then((found) => ({ default: found.DayPage })));
const DataPage = lazy(() => import("./club/DataPage").then((found) => ({ default: found.DataPage })));
const InstallationPage = lazy(() => import("./club/InstallationPage").then((found) => ({ default: found.InstallationPage })));
const OperationsPage = lazy(() => import("./club/OperationsPage").then((found) => ({ default: found.OperationsPage })));
const NoticesPage = lazy(() => import("./account/NoticesPage").then((found) => ({ default: found.NoticesPage })));
const AccountPage = lazy(() => import("./account/AccountPage").then((found) => ({ default: found.AccountPage })));
const WordsPage = lazy(() => import("./words/WordsPage").then((found) => ({ default: found.WordsPage })));

export function App() {
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/r/:token" element={<SharedReport />} />
        <Route
          path="/p/:token"
          element={
            <Suspense fallback={<Loading />}>
              <SharedPlan />
            </Suspense>
          }
        />
        <Route path="/invitation" element={<InvitationPage />} />
        <Route path="/sign-up" element={<SignUpPage />} />
        <Route path="/sign-in" element={<LinkIn />} />
        <Route path="/new-password" element={<ResetPage />} />
        <Route path="/confirm" element={<ConfirmPage />} />
        <Route path="/mails" element={<MailsPage />} />
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
    <Suspense fallback={<Loading />}>
      <Routes>
        <Route path="/" element={<Home />} />
        <Route path="/own" element={<OwnPlace />} />
        <Route path="/own/season/:id" element={<OwnSeasonPage />} />
        <Route path="/own/reports/:id" element={<OwnReport />} />
        <Route path="/athletes" element={<Athletes />} />
        <Route path="/athletes/:id" element={<SeasonPage />} />
        <Route path="/athletes/:id/plan" element={<PlanPage />} />
        <Route path="/own/plans" element={<OwnPlansPage />} />
        <Route path="/season" element={<ClubSeasonPage />} />
        <Route path="/season/import" element={<ImportPage />} />
        <Route path="/season/record" element={<RecordPage />} />
        <Route path="/drills" element={<DrillsPage />} />
        <Route path="/days" element={<DaysPage />} />
        <Route path="/days/:id" element={<DayPage />} />
        <Route path="/rulebook" element={<RulebookPage />} />
        <Route path="/rulebook/drill" element={<DrillPage />} />
        <Route path="/rulebook/house" element={<HouseRulesPage />} />
        <Route path="/matches/new" element={<NewMatch />} />
        <Route path="/matches/several" element={<Several />} />
        <Route path="/matches/deleted" element={<Deleted />} />
        <Route path="/matches/:id" element={<DeskPage />} />
        <Route path="/matches/:id/review" element={<ReviewPage />} />
        <Route path="/club" element={<ClubPage />} />
        <Route path="/club/journal" element={<JournalPage />} />
        <Route path="/club/data" element={<DataPage />} />
        <Route path="/installation" element={<InstallationPage />} />
        <Route path="/operations" element={<OperationsPage />} />
        <Route path="/notices" element={<NoticesPage />} />
        <Route path="/account" element={<AccountPage />} />
        <Route path="/words" element={<WordsPage />} />
        <Route path="/review-settings" element={<KindsPage />} />
        <Route path="/matches/:id/report" element={<ReportPreview />} />
        <Route path="/matches/:id/seconds/:second" element={<SideBySide />} />
        <Route path="*" element={<Nothing />} />
      </Routes>
    </Suspense>
  );
}

/** The matches for those who score, the reports about them for athletes and guardians. */
function Home() {
  return useMay("list") ? <MatchList /> : <OwnPlace />;
}

function Loading() {
  return <p className="p-8 text-slate">Opening the page…</p>;
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

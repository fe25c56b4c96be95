import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Side = Schemas["SideEnum"];
export type Tally = Schemas["TallyEnum"];
export const TALLIES: Tally[] = ["points", "advantages", "penalties"];
export type PositionName = Schemas["PositionEnum"];
export type Observation = Schemas["Observation"];
/** One that is stored: by its id it is changed and deleted. */
export type Keyed = Observation & { id: string };
export type Verdict = Schemas["Verdict"];
export type Exchange = Schemas["Exchange"];
export type Award = Schemas["Award"];
export type Column = Schemas["Column"];
export type UnpaidClaim = Schemas["UnpaidClaim"];
export type Changed = Schemas["Changed"];
export type Desk = Schemas["Desk"];
export type Match = Schemas["Match"];
export type MatchRow = Schemas["MatchRow"];
export type NewMatch = Schemas["NewMatchRequest"];
export type Clip = Schemas["Clip"];
export type Job = Schemas["Job"];
export type Part = Schemas["Part"];
export type Athlete = Schemas["Athlete"];
export type Outlook = Schemas["Outlook"];
export type Move = Schemas["Move"];
export type Installation = Schemas["Installation"];
export type Review = Schemas["Review"];
export type ReviewError = Schemas["ReviewError"];
export type Preview = Schemas["Preview"];
export type DeletedMatch = Schemas["DeletedMatch"];
export type Remembered = Schemas["Remembered"];
export type Found = Schemas["Found"];
export type Remark = Schemas["RemarkRequest"];
export type KindOfError = Schemas["Kind"];
export type KindSetting = Schemas["KindSettingRequest"];
export type Prospects = Schemas["Prospects"];
export type Spread = Schemas["Spread"];
export type Note = Schemas["Note"];
export type NewNote = Schemas["NoteRequest"];
export type PictureMark = Schemas["Mark"];
export type Cut = Schemas["Cut"];
export type ShareLink = Schemas["Link"];
export type Report = Schemas["Report"];
export type Technique = Schemas["Technique"];
export type Ruleset = Schemas["Ruleset"];
export type Item = Schemas["Item"];
export type Stand = Schemas["Stand"];
export type HouseRules = Schemas["HouseRules"];
export type Division = Schemas["Division"];
export type Entry = Schemas["TechniqueEntry"];
export type TechniquePage = Schemas["TechniquePage"];
export type AuditLine = Schemas["Line"];
export type Attention = Schemas["Attention"];
export type Comparison = Schemas["Comparison"];
export type Audit = Schemas["Audit"];
export type Board = Schemas["Board"];
export type BoardMoment = Schemas["BoardMoment"];
export type FoundLine = Schemas["FoundLine"];
export type Proposal = Schemas["Proposal"];
export type Change = Schemas["Change"];
export type Prompt = Schemas["Prompt"];
export type Reading = Schemas["Reading"];
export type UsualLength = Schemas["Length"];
export type Club = Schemas["Club"];
export type Member = Schemas["Member"];
export type Invitation = Schemas["Invitation"];
export type OwnAthlete = Schemas["OwnAthlete"];
export type JournalEntry = Schemas["JournalEntry"];
export type People = Schemas["People"];
export type Preferences = Schemas["Preferences"];
export type Notice = Schemas["Notice"];
export type Export = Schemas["Export"];
export type Deletion = Schemas["Deletion"];
export type OwnData = Schemas["OwnData"];
export type ClubData = Schemas["ClubData"];
export type Present = Schemas["Present"];
export type Season = Schemas["Season"];
export type SeasonFigures = Schemas["SeasonFigures"];
export type Tried = Schemas["Tried"];
export type OfMove = Schemas["OfMove"];
export type Recurring = Schemas["Recurring"];
export type ClubSeason = Schemas["ClubSeason"];
export type ClubKind = Schemas["ClubKind"];
export type Group = Schemas["Group"];
export type Against = Schemas["Against"];
export type Checked = Schemas["Checked"];
export type Import = Schemas["Import"];
export type DrillOfLibrary = Schemas["DrillOfLibrary"];
export type NewDrill = Schemas["DrillOfLibraryRequest"];
export type Plan = Schemas["Plan"];
export type PlanOfAthlete = Schemas["PlanOfAthlete"];
export type NewPlan = Schemas["NewPlanRequest"];
export type EventDay = Schemas["EventDay"];
export type NewEventDay = Schemas["EventDayRequest"];
export type ShownDay = Schemas["ShownDay"];
export type Fight = Schemas["Fight"];
export type NewFight = Schemas["NewFightRequest"];
export type SeasonMoment = Schemas["ShownMoment"];
export type Session = Schemas["Session"];
export type Fault = Schemas["Fault"];

/** What the server refused, with the fields it names. `status` 0: the server could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly faults: Fault[] = [],
  ) {
    super(message);
  }
}

/** The code of a refusal after which the password is asked for again, and what was refused is done once more. */
export const ASK_AGAIN = "ask_again";

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

export const UNREACHABLE = "The server can't be reached. Is it running? What you entered is kept on this page.";

// Without a step in between a request leaves in the same task as the key that made it.
export const api = createClient<paths>({
  baseUrl: "/",
  cache: "no-store", // nor is there then anything to look for in the browser's cache before a change is sent
  fetch: (request) => {
    request.headers.set("X-CSRFToken", csrfToken());
    return fetch(request).catch(() => {
      throw new ApiError(0, "unreachable", UNREACHABLE);
    });
  },
});

/** Turn an error body into an ApiError; anything unexpected keeps its status. */
export function refusal(status: number, body: unknown): ApiError {
  const said = (typeof body === "object" && body !== null ? body : {}) as Partial<Schemas["Error"]>;
  const message = said.message ?? "Something went wrong on the server. Nothing was changed; please try again.";
  return new ApiError(status, said.code ?? "server", message, said.faults ?? []);
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or the refusal thrown. */
export async function ok<T>(answer: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await answer;
  if (!response.ok) throw refusal(response.status, error);
  return data as T;
}

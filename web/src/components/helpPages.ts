/** What is on a screen and what to do there; the first whose pattern fits the address. */
export interface PageHelp {
  pattern: RegExp;
  title: string;
  text: string[];
}

export const PAGES: PageHelp[] = [
  {
    pattern: /^\/matches\/new$/,
    title: "A new match",
    text: [
      "Choose the athlete: age and belt follow from the date, and the length from the division. Events, opponents and clubs you typed before are offered again.",
      "Add the clip now or later. If one clip holds several matches, say from where to where this one is.",
      "“Go to the desk” opens the match. Everything here can be changed later, under Settings on the desk.",
    ],
  },
  {
    pattern: /^\/matches\/several$/,
    title: "Several matches at once",
    text: [
      "Say what the matches have in common, then choose or drop all clips of the day.",
      "Each clip becomes a draft, named by its date and file. Click whose match it is: the match is set up with the athlete’s belt, age and match length.",
      "You can close this page while clips are still being prepared. Clips without a match stay here.",
    ],
  },
  {
    pattern: /^\/matches\/deleted$/,
    title: "Deleted matches",
    text: [
      "A deleted match can be restored for 30 days, with everything that was logged. After that it is removed for good. Clips are not deleted with it.",
    ],
  },
  {
    pattern: /^\/matches\/[^/]+\/review$/,
    title: "The review",
    text: [
      "Errors are listed by what they cost, those with one root together. Go through them with j and k, play one with p, accept with a, dismiss with x.",
      "Link an error to an earlier one it came from, give it a cause, and say it in your own words. What you accept goes into the report.",
      "The other parts show the chance of winning over time, what was still winnable, the officials’ calls, and the match under other rules. “Report” has the message, the clips and the link for the athlete.",
    ],
  },
  {
    pattern: /^\/matches\/[^/]+\/report$/,
    title: "The report",
    text: ["This is what the athlete will see. Change the texts in the review, then send a link or the PDF from there."],
  },
  {
    pattern: /^\/matches\/[^/]+\/seconds\//,
    title: "Two scores side by side",
    text: ["What both scorers gave, and where they differ, with the reason of each. Watch those moments again together."],
  },
  {
    pattern: /^\/(athletes|own\/season)\/\d+$/,
    title: "The season of an athlete",
    text: [
      "What works: how much of what was tried worked, with how sure that figure is. What comes back: errors over all matches, and whether they have become rarer since a day that you choose.",
      "Every number opens the moments behind it; they play one after the other.",
    ],
  },
  {
    pattern: /^\/athletes\/\d+\/plan$/,
    title: "Drills for an athlete",
    text: [
      "Say when the next event is, how often the athlete trains and for how long. The plan is proposed from the errors that cost most, and brings each drill back in growing intervals.",
      "Drag a drill to another day. Print the plan, or send a link; the athlete ticks drills off. Afterwards it says what changed in the matches since.",
    ],
  },
  {
    pattern: /^\/season$/,
    title: "The club’s season",
    text: [
      "What costs the club most is tonight’s theme, with the names of those it concerns and the drills that are for it.",
      "Below: belts and ages side by side, matches that still wait, and whether the chances of winning come true.",
    ],
  },
  {
    pattern: /^\/season\/import$/,
    title: "Import matches",
    text: ["Take in many match logs at once. What was wrong with a match is listed with it; the others are taken in all the same."],
  },
  {
    pattern: /^\/season\/record$/,
    title: "Your record as a scorer",
    text: ["How much you and the officials gave alike, and who gives earlier. Only you see it."],
  },
  {
    pattern: /^\/drills$/,
    title: "Drills",
    text: ["The club’s library. Say which errors, causes and positions a drill is for: plans are proposed from that."],
  },
  {
    pattern: /^\/days(\/\d+)?$/,
    title: "Event days",
    text: [
      "Who fights when, on which mat, under which rules; typed, or as a table. “Set it up” makes the match of a fight, for its clip and its score.",
      "Before each fight: what weighed most in the athlete’s last match, and what is known of an opponent who was met before.",
    ],
  },
  {
    pattern: /^\/own\/plans$/,
    title: "What to drill",
    text: ["Your plan, day by day. Tick off what you have done; your coach sees it."],
  },
  {
    pattern: /^\/athletes$/,
    title: "Athletes",
    text: ["Everyone you coach, with year of birth and belt. A match keeps the belt and age of its own day."],
  },
  {
    pattern: /^\/rulebook\/drill$/,
    title: "Rules drill",
    text: [
      "Questions on what is legal and how it is scored in a division. What you get wrong comes back sooner. Your athlete can practise under their own name.",
    ],
  },
  {
    pattern: /^\/rulebook\/house$/,
    title: "House rules",
    text: [
      "Start from a ruleset and change what the event changes. Try it on a match before you save. A saved version stays as it is, so that matches scored by it do not change.",
    ],
  },
  {
    pattern: /^\/rulebook/,
    title: "The rulebook",
    text: [
      "Choose a division and a ruleset: how it is scored, what is illegal and what that leads to, and what changes next.",
      "Ask by name, in any spelling, whether a technique is legal. Compare two divisions, or print a briefing before the event.",
    ],
  },
  {
    pattern: /^\/review-settings$/,
    title: "What the review looks for",
    text: ["Each kind of error can be turned off, or its limit changed. The change counts for all your matches from then on."],
  },
  {
    pattern: /^\/own\/reports/,
    title: "A report",
    text: ["What your coach wrote about one match. Tick off what you have drilled, and write back at the end."],
  },
  {
    pattern: /^\/own$/,
    title: "Reports for you",
    text: ["Your matches, and the reports that your coach has sent. Parents decide here what may be sent by link."],
  },
  {
    pattern: /^\/club\/journal$/,
    title: "Journal",
    text: ["Who did what in the club. It is kept as it is: nothing in it can be changed or deleted."],
  },
  {
    pattern: /^\/club\/data$/,
    title: "The club’s data",
    text: [
      "Say how many months clips are kept: older ones are listed here, to be deleted or kept as long again. Logs and reports stay.",
      "Export everything the club owns as one file, or have the club deleted; there are 30 days to change your mind.",
    ],
  },
  {
    pattern: /^\/installation$/,
    title: "Clubs of this installation",
    text: ["Every club that lives here. What is in a club is seen by its members alone. Found a further one, then invite its head coach."],
  },
  {
    pattern: /^\/operations$/,
    title: "Installation status",
    text: [
      "For whoever runs it: background jobs and how long they take, disk space, the latest backups and failed sign-ins. The page refreshes every ten seconds.",
      "“Try again” puts a failed job back into the queue. What the job was about is shown only to its owner.",
    ],
  },
  {
    pattern: /^\/notices$/,
    title: "Notices",
    text: ["What happened that concerns you, the latest first. Which of them you get, here and by mail, is chosen in your account."],
  },
  {
    pattern: /^\/club$/,
    title: "The club",
    text: [
      "Who is in the club and what each may do. Invite by mail: a coach, a scorer, an athlete, or a child's guardian. An invitation holds for 14 days.",
    ],
  },
  {
    pattern: /^\/account$/,
    title: "Your account",
    text: [
      "Your address, your password, a second factor or a passkey for signing in, and the devices on which you are signed in.",
      "Below: which notices you get, everything kept about you to export, and the deletion of your account.",
    ],
  },
  {
    pattern: /^\/words$/,
    title: "Words of the sport",
    text: ["Every word that these pages use. Search by the word or by what it means."],
  },
  {
    pattern: /^\/$/,
    title: "Your matches",
    text: [
      "“Waiting for you” shows what is not scored, second scores to submit, replies from athletes, and clips without a match.",
      "Search by athlete, opponent or event, and narrow the list down. “Score it” opens the desk; “Review” opens what the match teaches.",
    ],
  },
];

export function helpFor(path: string): PageHelp | undefined {
  return PAGES.find((one) => one.pattern.test(path));
}

/** Words of the sport as this product uses them, for whoever meets one for the first time. */
export interface SportWord {
  word: string;
  meaning: string;
}

export const SPORT: { title: string; words: SportWord[] }[] = [
  {
    title: "Where the two are",
    words: [
      { word: "standing", meaning: "Both on their feet." },
      {
        word: "guard",
        meaning: "One is on top; the one below has the legs between them. It is closed (ankles locked), open, or half (one leg trapped).",
      },
      { word: "turtle", meaning: "On hands and knees or elbows, head and arms tucked in, the other above or beside." },
      {
        word: "side control",
        meaning: "On top, chest to chest, past both legs. North-south, with the heads the other way round, counts as side control.",
      },
      { word: "knee on belly", meaning: "On top with a knee across the belly, the other foot on the mat." },
      { word: "mount", meaning: "Sitting on the opponent’s body, facing the head, both knees or feet on the mat." },
      {
        word: "back control",
        meaning: "Behind the opponent with both hooks: a foot inside each thigh, ankles not crossed. With one hook it is not complete yet.",
      },
      {
        word: "leg entanglement",
        meaning:
          "Legs wound around a leg to attack the foot or knee. On top is whoever is up, not whoever attacks; usually no one is. A guard that ties up a leg from below is guard.",
      },
      { word: "scramble", meaning: "A moment in which no one has a position." },
    ],
  },
  {
    title: "What happens",
    words: [
      { word: "takedown", meaning: "From standing to the ground, ending on top." },
      { word: "pull", meaning: "Sitting down to guard from standing, with a grip." },
      { word: "sweep", meaning: "From below in the guard to on top." },
      { word: "guard pass", meaning: "From inside the guard to past the legs, and staying there." },
      { word: "reversal", meaning: "From below, not in the guard, to on top." },
      { word: "escape", meaning: "Out of a bad position." },
      { word: "submission", meaning: "A choke or lock that makes the opponent tap. An attempt threatens; a close one nearly finished." },
      { word: "contest", meaning: "Both fight for something: head or inside position, an underhook, posture, a grip, the hips." },
      {
        word: "knee caught, heel exposed",
        meaning:
          "In a leg entanglement: the attacker has the other’s knee line behind the hips; the heel can be taken. Free and hidden are the opposites.",
      },
      { word: "near", meaning: "A move that very nearly worked: it may score an advantage." },
      { word: "stalling", meaning: "Not trying to improve; fleeing is leaving the mat or the position to avoid the fight." },
    ],
  },
  {
    title: "How it counts",
    words: [
      { word: "three seconds", meaning: "Most positions score only once they have been held, under control, for three seconds." },
      { word: "points", meaning: "For takedowns, sweeps, passes and dominant positions." },
      { word: "advantage", meaning: "For what nearly scored: it decides a match that is level on points." },
      { word: "penalty", meaning: "For a foul or an illegal technique; what the second and third lead to depends on the rules." },
      { word: "division", meaning: "Age, belt, and gi or no-gi together: it says what is legal and how long the match is." },
      { word: "ruleset", meaning: "How an event scores. House rules are an event’s own changes to one." },
      { word: "exchange", meaning: "One stretch of the match, from a start or a change of who is on top to the next." },
      { word: "golden score", meaning: "Overtime in which the first score wins." },
      { word: "decision", meaning: "A level match is given to one by the referees." },
    ],
  },
  {
    title: "In this product",
    words: [
      {
        word: "footage time, match clock",
        meaning: "Where in the video something is; what the event’s clock showed then, counted from the start of the match.",
      },
      { word: "mark", meaning: "Your own judgement of a moment: something wrong or well done, with a cause. It changes no score." },
      { word: "not watched", meaning: "A stretch that the clip does not show, or that no one looked at. Nothing is concluded from it." },
      { word: "unsure", meaning: "An entry you could not see well. The score is then a range, from worst to best." },
      { word: "second score", meaning: "The same match scored by someone else without seeing yours, to be compared." },
      { word: "error, root", meaning: "Something that cost the athlete; the first of several that came from one another." },
      {
        word: "chance of winning",
        meaning: "An estimate from scored matches: how often someone wins from this score, position and time.",
      },
    ],
  },
];

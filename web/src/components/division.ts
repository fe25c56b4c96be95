import type { Athlete } from "../api/client";
import words from "../api/words.json";

export const BELTS = words.belts as Athlete["belt"][];

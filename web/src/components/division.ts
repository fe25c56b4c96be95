import type { Athlete } from "../api/client";

export const BELTS: Athlete["belt"][] = ["white", "grey", "yellow", "orange", "green", "blue", "purple", "brown", "black"];

import { useState } from "react";

/** A picture from the middle of a clip; nothing where it can't be had just now. */
export function Poster({ clip, className }: { clip: string; className: string }) {
  const [missing, setMissing] = useState(false);
  if (missing) return null;
  return <img src={`/api/clips/${clip}/pictures/poster`} alt="" loading="lazy" className={className} onError={() => setMissing(true)} />;
}

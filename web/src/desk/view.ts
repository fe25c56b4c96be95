/** How the picture is looked at: enlarged about a point, moved, and turned for clips filmed sideways. */
export interface View {
  zoom: number;
  /** How far the picture is moved, as shares of the stage. */
  x: number;
  y: number;
  /** Quarter turns clockwise. */
  turns: number;
  /** Seen as in a mirror: a clip that was filmed into one, or that a phone has mirrored, shows left and right as they are. */
  mirrored: boolean;
}

export const PLAIN: View = { zoom: 1, x: 0, y: 0, turns: 0, mirrored: false };
const MOST_ZOOM = 6;

function held(view: View): View {
  const most = (view.zoom - 1) / 2;
  const within = (share: number) => Math.max(-most, Math.min(most, share));
  return { ...view, x: within(view.x), y: within(view.y) };
}

/** Zoom by a factor, keeping the point under the pointer (shares of the stage from its middle) where it is. */
export function zoomed(view: View, by: number, at = { x: 0, y: 0 }): View {
  const zoom = Math.max(1, Math.min(MOST_ZOOM, view.zoom * by));
  const real = zoom / view.zoom;
  return held({ ...view, zoom, x: at.x - (at.x - view.x) * real, y: at.y - (at.y - view.y) * real });
}

export function moved(view: View, x: number, y: number): View {
  return held({ ...view, x: view.x + x, y: view.y + y });
}

/** A quarter further; after a whole turn it is the other way round, as in a mirror. */
export function turned(view: View): View {
  const turns = (view.turns + 1) % 4;
  return { ...view, turns, mirrored: turns === 0 ? !view.mirrored : view.mirrored };
}

/** The whole picture, turned and mirrored as it is. */
export function whole({ turns, mirrored }: View): View {
  return { ...PLAIN, turns, mirrored };
}

/** The CSS transform of a picture that fills a stage of `width` by `height`. */
export function transformOf(view: View, width: number, height: number): string {
  const sideways = view.turns % 2 === 1 && width > 0 && height > 0;
  // Turned by a quarter, the picture is fitted into the stage the other way round.
  const fit = sideways ? Math.min(width, height) / Math.max(width, height) : 1;
  return `translate(${view.x * width}px, ${view.y * height}px) scale(${view.zoom * fit}) rotate(${view.turns * 90}deg)${view.mirrored ? " scaleX(-1)" : ""}`;
}

import { useEffect, useRef } from "react";
import type { Point } from "./marks";

const SIZE = 132;
const TIMES = 5;

/** What lies under the pointer, enlarged, with a cross where the corner would be. */
export function Magnifier({ video, at }: { video: HTMLVideoElement; at: Point }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pen = canvas.current?.getContext("2d");
    if (!pen) return;
    const seen = SIZE / TIMES;
    const [x, y] = [at.x * video.videoWidth - seen / 2, at.y * video.videoHeight - seen / 2];
    pen.imageSmoothingEnabled = false;
    pen.fillStyle = "#000";
    pen.fillRect(0, 0, SIZE, SIZE);
    pen.drawImage(video, x, y, seen, seen, 0, 0, SIZE, SIZE);
    pen.strokeStyle = "#f0ede4";
    pen.beginPath();
    pen.moveTo(SIZE / 2, 0);
    pen.lineTo(SIZE / 2, SIZE);
    pen.moveTo(0, SIZE / 2);
    pen.lineTo(SIZE, SIZE / 2);
    pen.stroke();
  }, [video, at]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      width={SIZE}
      height={SIZE}
      className={`pointer-events-none absolute bottom-2 border-2 border-bone ${at.x > 0.5 ? "left-2" : "right-2"}`}
    />
  );
}

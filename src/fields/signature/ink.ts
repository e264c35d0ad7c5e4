/** A picture of a signature is as large as this, in pixels, whatever it was drawn on: it prints well at 60 mm. */
const WIDTH = 900;
const HEIGHT = 300;

const asPng = (canvas: HTMLCanvasElement): Promise<Blob | null> =>
  new Promise((resolve) => canvas.toBlob(resolve, "image/png"));

function paper(): [HTMLCanvasElement, CanvasRenderingContext2D] | null {
  const canvas = document.createElement("canvas");
  canvas.width = WIDTH;
  canvas.height = HEIGHT;
  const ctx = canvas.getContext("2d");
  if (!ctx) return null;
  ctx.fillStyle = "#fff";
  ctx.fillRect(0, 0, WIDTH, HEIGHT);
  return [canvas, ctx];
}

/** What was drawn, on white paper; null where the browser cannot make the picture. */
export async function inkOnPaper(drawn: HTMLCanvasElement): Promise<Blob | null> {
  const on = paper();
  if (!on) return null;
  const [canvas, ctx] = on;
  const scale = Math.min(WIDTH / drawn.width, HEIGHT / drawn.height);
  const [w, h] = [drawn.width * scale, drawn.height * scale];
  ctx.drawImage(drawn, (WIDTH - w) / 2, (HEIGHT - h) / 2, w, h);
  return asPng(canvas);
}

/** A name written as a signature; null where the browser cannot make the picture. */
export async function nameAsInk(name: string, family: string): Promise<Blob | null> {
  const on = paper();
  if (!on) return null;
  const [canvas, ctx] = on;
  const written = (px: number) => `italic ${px}px ${family}`;
  ctx.fillStyle = "#1d2733";
  ctx.textBaseline = "middle";
  ctx.textAlign = "center";
  ctx.font = written(110);
  const room = WIDTH - 80;
  const is = ctx.measureText(name).width;
  if (is > room) ctx.font = written(Math.max(18, Math.floor((110 * room) / is)));
  ctx.fillText(name, WIDTH / 2, HEIGHT / 2, room);
  return asPng(canvas);
}

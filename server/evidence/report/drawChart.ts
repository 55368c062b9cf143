import {
  CategoryScale,
  Chart,
  type ChartDataset,
  Filler,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
} from "chart.js";
import { createCanvas, GlobalFonts } from "@napi-rs/canvas";
import type { ReportChart } from "@/core/evidence/report";
import { fontFile } from "./fonts";

Chart.register(CategoryScale, Filler, Legend, LinearScale, LineController, LineElement, PointElement);

/** Points of print; the picture has so many times as many dots, so that it is sharp on paper. */
const SHARPNESS = 4;
const FONT = "House";
const COLOURS = ["#a34f2b", "#2c6e68", "#4a5a5c", "#9bb0b0", "#7a5c1e", "#3f4f7a"];

/**
 * Draws stacked lines, as a PNG.
 * @param width in points, and `height`: sizes of text are those of print
 */
export async function chartPicture({ labels, lines }: ReportChart, width: number, height: number): Promise<Uint8Array> {
  if (!GlobalFonts.has(FONT)) GlobalFonts.register(await fontFile("house", "plain"), FONT);
  const canvas = createCanvas(Math.round(width), height);
  const font = { family: FONT, size: 8.5 };
  const ticks = { color: "#4a5a5c", font };
  const datasets = lines.map(({ name, values }, i): ChartDataset<"line", number[]> => {
    const colour = COLOURS[i % COLOURS.length];
    return {
      ...{ label: name, data: values, fill: true, pointRadius: 0, borderWidth: 1 },
      ...{ borderColor: colour, backgroundColor: colour },
    };
  });
  const chart = new Chart(canvas as unknown as HTMLCanvasElement, {
    type: "line",
    data: { labels, datasets },
    options: {
      ...{ animation: false, responsive: false, devicePixelRatio: SHARPNESS },
      plugins: { legend: { position: "bottom", labels: { ...ticks, boxWidth: 10, boxHeight: 10 } } },
      scales: {
        x: { ticks: { ...ticks, maxRotation: 0 }, grid: { display: false } },
        y: {
          stacked: true,
          beginAtZero: true,
          ticks: { ...ticks, precision: 0 },
          grid: { color: "#dfe6e6", lineWidth: 0.5 },
        },
      },
    },
  });
  try {
    return canvas.toBuffer("image/png");
  } finally {
    chart.destroy();
  }
}

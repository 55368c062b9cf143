import {
  CategoryScale,
  Chart,
  type ChartDataset,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from "chart.js";

Chart.register(CategoryScale, Filler, LinearScale, LineController, LineElement, PointElement, Tooltip);

/** One of the figures that stand one upon the other, with the token of its colour. */
export interface StackedLine {
  name: string;
  token: string;
  values: number[];
}

interface Stacked {
  labels: string[];
  /** The lowest first. */
  lines: readonly StackedLine[];
  /** A figure holds until the next: there is nothing between them. */
  isStepped?: boolean;
  mostTicks: number;
  /** What is done where a point is pressed, by its place. */
  onPress?: (place: number) => void;
}

/** Draws figures one upon the other, in the colours of the page. */
export function stackedChart(
  canvas: HTMLCanvasElement,
  { labels, lines, isStepped, mostTicks, onPress }: Stacked,
): Chart {
  const styles = getComputedStyle(canvas);
  const colour = (token: string) => styles.getPropertyValue(token).trim();
  const datasets = lines.map(({ name, token, values }): ChartDataset<"line", number[]> => ({
    ...{ label: name, data: values, backgroundColor: colour(token), borderWidth: 0, pointRadius: 0 },
    ...{ fill: true, stepped: isStepped ?? false },
  }));
  const ticks = {
    ...{ color: colour("--ink-faint"), maxRotation: 0, maxTicksLimit: mostTicks },
    font: { family: styles.fontFamily },
  };
  return new Chart(canvas, {
    type: "line",
    data: { labels, datasets },
    options: {
      ...{ animation: false, maintainAspectRatio: false, interaction: { mode: "index", intersect: false } },
      onClick: (_, [first]) => first && onPress?.(first.index),
      scales: {
        x: { ticks, grid: { display: false } },
        y: { stacked: true, beginAtZero: true, ticks: { ...ticks, precision: 0 }, grid: { color: colour("--line") } },
      },
    },
  });
}

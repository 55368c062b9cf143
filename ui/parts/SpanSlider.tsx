"use client";

import { Slider } from "radix-ui";

interface Props {
  /** What is spanned, as the thumbs are called. */
  name: string;
  bars: number;
  span: readonly [number, number];
  onDrag: (span: [number, number]) => void;
  onChoose: (span: [number, number]) => void;
  /** What an end stands for, in words. */
  wordsOf?: (end: number) => string;
}

/** Two thumbs under bars, between which a span is dragged or moved by keys. */
export function SpanSlider({ name, bars, span, onDrag, onChoose, wordsOf }: Props) {
  return (
    <Slider.Root
      min={0}
      max={bars}
      step={1}
      minStepsBetweenThumbs={1}
      value={[...span]}
      onValueChange={([first, last]) => onDrag([first, last])}
      onValueCommit={([first, last]) => onChoose([first, last])}
      className="relative flex h-4 touch-none items-center"
    >
      <Slider.Track className="relative h-[3px] grow bg-line-strong">
        <Slider.Range className="absolute h-full bg-verdigris" />
      </Slider.Track>
      {["from", "to"].map((end, i) => (
        <Slider.Thumb
          key={end}
          aria-label={`${name}: ${end}`}
          aria-valuetext={wordsOf?.(span[i])}
          className="block h-4 w-[7px] rounded-[2px] border border-verdigris bg-raised"
        />
      ))}
    </Slider.Root>
  );
}

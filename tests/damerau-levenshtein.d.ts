/** It comes without types. */
declare module "damerau-levenshtein" {
  export default function distance(a: string, b: string): { steps: number };
}

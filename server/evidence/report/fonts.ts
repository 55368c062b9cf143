import { readFile } from "node:fs/promises";
import { installed } from "../../platform/installation";

/** The weights in which reports are set. */
export type Weight = "plain" | "bold";
/** The house's own font, and one that has nearly every letter there is, for names that ours can't write. */
export type Face = "house" | "wide";

const MODULES = "node_modules";
const HOUSE = "@expo-google-fonts/atkinson-hyperlegible-next";

/** As whole files: neither PDF nor a canvas outside a browser takes the web's. */
const FILES: Record<Face, Record<Weight, string>> = {
  house: {
    plain: `${HOUSE}/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf`,
    bold: `${HOUSE}/600SemiBold/AtkinsonHyperlegibleNext_600SemiBold.ttf`,
  },
  wide: { plain: "dejavu-fonts-ttf/ttf/DejaVuSans.ttf", bold: "dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf" },
};

export function fontFile(face: Face, weight: Weight): Promise<Buffer> {
  return readFile(installed(MODULES, FILES[face][weight]));
}

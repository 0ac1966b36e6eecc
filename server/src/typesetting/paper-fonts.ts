import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);
const faces = ['400Regular', '400Regular_Italic', '600SemiBold', '600SemiBold_Italic', '700Bold', '700Bold_Italic'];
const families: Readonly<Record<string, readonly [packageName: string, name: string]>> = {
  serif: ['source-serif-4', 'SourceSerif4'],
  sans: ['source-sans-3', 'SourceSans3'],
  mono: ['jetbrains-mono', 'JetBrainsMono'],
};

/** The file of a font that comes with the application, as paper takes it; under the SIL Open Font License. */
export function paperFont(family: string, face = '400Regular'): string {
  const [packageName, name] = families[family] ?? ['', ''];
  return require.resolve(`@expo-google-fonts/${packageName}/${face}/${name}_${face}.ttf`);
}

/** The file of the font of formulas; under the same licence. */
export const mathFont = require.resolve('@expo-google-fonts/stix-two-math/400Regular/STIXTwoMath_400Regular.ttf');

/** The files of all of them. */
export const paperFonts: readonly string[] = [
  ...Object.keys(families).flatMap((family) => faces.map((face) => paperFont(family, face))),
  mathFont,
];

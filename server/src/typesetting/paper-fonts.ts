import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);
const faces = ['400Regular', '400Regular_Italic', '600SemiBold', '600SemiBold_Italic', '700Bold', '700Bold_Italic'];
/** The files of the fonts that come with the application, as paper takes them; all under the SIL Open Font License. */
export const paperFonts: readonly string[] = [
  ...faces.map((face) => ['source-serif-4', 'SourceSerif4', face]),
  ...faces.map((face) => ['source-sans-3', 'SourceSans3', face]),
  ...faces.map((face) => ['jetbrains-mono', 'JetBrainsMono', face]),
].map(([family = '', name = '', face = '']) =>
  require.resolve(`@expo-google-fonts/${family}/${face}/${name}_${face}.ttf`),
);

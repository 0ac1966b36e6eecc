import { picturesOn, recordingsOn, type NumberedPage } from '../number/numbered.js';
import { imageFileName, recordingFileName } from './file-names.js';
import type { Capabilities, FormatFile } from './format.js';

/** What a page shows and plays, under the paths that the files of a format use. */
export function shownOn(
  page: NumberedPage,
  { carriesRecording }: Capabilities,
): Required<Pick<FormatFile, 'pictures' | 'recordings'>> {
  return {
    pictures: picturesOn(page).map((file) => ({ path: imageFileName(file), file })),
    recordings: recordingsOn(page)
      .filter(({ mediaType }) => carriesRecording(mediaType))
      .map((file) => ({ path: recordingFileName(file), file })),
  };
}

import { calibrationSnippets, calibrationTopics, calibrationVariables } from './calibration-manual.js';
import type { DemoComponent } from './demo-component.js';
import { networkLinks, networkSnippets, networkTopics, networkVariables } from './network-guide.js';
import { quickSnippets, quickTopics, quickVariables } from './quick-start.js';
import { sitingSnippets, sitingTopics, sitingVariables } from './siting-handbook.js';
import { links, snippets } from './snippets.js';
import { topics } from './topics.js';
import { variables } from './variables.js';

/** Puts components into a collection, besides what they are labelled with. */
const inCollection = (collection: string, ...lists: readonly (readonly DemoComponent[])[]): readonly DemoComponent[] =>
  lists.flat().map((each) => ({ ...each, labels: { tags: {}, ...each.labels, collection } }));

/** All that the demo library holds besides pictures. */
export const components: readonly DemoComponent[] = [
  ...variables,
  ...snippets,
  ...links,
  ...topics,
  ...inCollection('Network', networkVariables, networkSnippets, networkLinks, networkTopics),
  ...inCollection('Service/Calibration', calibrationVariables, calibrationSnippets),
  ...inCollection(
    'Service/Calibration',
    calibrationTopics.filter(({ key }) => key.startsWith('cal-')),
  ),
  ...inCollection(
    'Service/Repair',
    calibrationTopics.filter(({ key }) => key.startsWith('rep-')),
  ),
  ...inCollection('Siting', sitingVariables, sitingSnippets, sitingTopics),
  ...inCollection(
    'Quick start',
    quickVariables,
    quickSnippets,
    quickTopics.filter(({ key }) => key.startsWith('qs-')),
  ),
  ...inCollection(
    'Quick start/German',
    quickTopics.filter(({ key }) => key.startsWith('de-')),
  ),
];

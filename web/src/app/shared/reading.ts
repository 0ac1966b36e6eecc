import {
  assemblePublication,
  childrenOf,
  componentFrom,
  contentBody,
  flattenPages,
  libraryOf,
  makeNode,
  makeText,
  numberPublication,
  PageWriter,
  plainDesign,
  referencesOf,
  siteForm,
  type Component,
  type ComponentClosure,
  type ContentNode,
  type PageForm,
  type Problem,
  type Recipe,
  type VariableValues,
  type Vocabulary,
} from '@allomorph/core';
import { imageAddress, recordingAddress } from './file-addresses';

/** How a component reads, as output would show it. */
export interface Reading {
  readonly html: string;
  readonly problems: readonly Problem[];
}

/** What is to be read, through which lens; null: without one. */
export interface ToRead {
  readonly closure: ComponentClosure;
  readonly lens: Recipe | null;
  readonly vocabulary: Vocabulary;
}

/** Pages as a place of the application shows them: pictures come from the server. */
const readingForm: PageForm = { ...siteForm, picture: imageAddress, recording: recordingAddress };

/** A recipe that leaves nothing out: what is read without a lens. */
const everything: Recipe = {
  publication: { key: '@reading', title: makeNode('phrase'), values: {}, entries: [] },
  variantTitle: '',
  profile: { axes: {} },
  values: {},
  language: 'en',
  design: plainDesign,
  buildDate: '',
  leaveOutEmpty: false,
};

/**
 * Renders a topic or snippet through the engine, as a page of its own. Topics that it refers to are
 * brought along, so that references read by their titles; numbers belong to publications and are left out.
 */
export function read({ closure, lens, vocabulary }: ToRead): Reading {
  const recipe = lens ?? everything;
  const { component } = closure;
  const shown = asTopic(lens === null ? bracketLimitedWords(component) : component);
  if (!shown) return { html: '', problems: [] };
  // Words that apply in some cases only stand side by side without a lens; brackets tell them apart.
  const bracketed = lens === null ? closure.components.map(bracketLimitedWords) : closure.components;
  const components = new Map(bracketed.map((each) => [each.key, each]));
  components.set(shown.key, shown);
  const targets = new Set(
    [component, ...closure.components]
      .flatMap((each) => referencesOf(each.body))
      .filter((each) => each.kind === 'cross-reference' && each.target !== component.key)
      .map((each) => each.target)
      .filter((key) => components.get(key)?.kind === 'topic'),
  );
  const publication = {
    ...recipe.publication,
    entries: [{ id: '@shown', topic: shown.key }, ...[...targets].map((topic) => ({ id: topic, topic }))],
  };
  const numberless = {
    ...plainDesign,
    sectionDepth: 0,
    numerals: { ...plainDesign.numerals, chapter: 'none' as const },
  };
  const source = { library: libraryOf([...components.values()], closure.held), ...vocabulary, publications: new Map() };
  const values = lens === null ? namesOfVarying([...components.values()]) : recipe.values;
  const shownRecipe = { ...recipe, publication, values, design: numberless };
  const numbered = numberPublication(assemblePublication(source, shownRecipe), shownRecipe);
  const page = flattenPages(numbered.pages).find((each) => each.entry === '@shown');
  return {
    html: page ? new PageWriter(numbered, page, readingForm).content() : '',
    problems: numbered.problems.filter(({ code, place }) => {
      if (code === 'left-out-reference') return place.component === component.key;
      // Without a lens all alternatives are shown on purpose.
      return code !== 'alternatives-together' || lens !== null;
    }),
  };
}

function bracketLimitedWords(component: Component): Component {
  const body = contentBody(component);
  const bracket = (node: ContentNode): ContentNode => {
    if (node.text !== undefined) {
      return node.marks?.some((mark) => mark.type === 'condition') ? { ...node, text: `[${node.text}]` } : node;
    }
    return node.content ? { ...node, content: node.content.map(bracket) } : node;
  };
  return body ? componentFrom({ ...component, body: bracket(body) }) : component;
}

/** Without a lens a variable that differs from case to case has no one value; its name stands for it. */
function namesOfVarying(components: readonly Component[]): VariableValues {
  const varying = components.filter((each) => each.kind === 'variable' && each.body.rules.length > 0);
  return Object.fromEntries(varying.map(({ key, title }) => [key, makeNode('phrase', null, [makeText(`‹${title}›`)])]));
}

function asTopic(component: Component): Component | null {
  const body = contentBody(component);
  if (!body) return null;
  if (body.type === 'topic') return component;
  const flow = body.type === 'phrase' ? [makeNode('paragraph', null, childrenOf(body))] : childrenOf(body);
  const title = makeNode('title', null, [makeText(component.title)]);
  return componentFrom({ ...component, kind: 'topic', body: makeNode('topic', null, [title, ...flow]) });
}

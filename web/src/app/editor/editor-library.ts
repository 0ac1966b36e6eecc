import { inject, Injectable, signal } from '@angular/core';
import {
  assembleBody,
  candidatesOf,
  childrenOf,
  contentBody,
  libraryOf,
  makeNode,
  plainText,
  referencesOf,
  type Component,
  type ComponentClosure,
  type ContentNode,
  type Library,
  type LinkBody,
  type Recording,
} from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { map, of, switchMap, tap, type Observable } from 'rxjs';
import { Api } from '../shared/api';
import { Lens } from '../shared/lens';
import { titleOfStamp } from '../shared/lanes';

/** The components that an open editor shows: those its body refers to, and what these refer to. */
@Injectable()
export class EditorLibrary {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private components = new Map<string, Component>();
  private held = new Map<string, Component>();
  private readonly asked = new Set<string>();
  private values = new Map<string, string | null>();
  private valuesFor: unknown = null;

  /** Grows when components were added: what shows them draws itself again. */
  readonly changes = signal(0);

  /** Takes over what came with a component; earlier ones are kept. */
  add(closure: ComponentClosure): void {
    this.keep([...closure.components, closure.component]);
    for (const component of closure.held) this.held.set(`${component.key}@${component.revision}`, component);
    this.valuesFor = null;
    this.changes.update((count) => count + 1);
  }

  /** Takes over components that were read together. */
  addAll(components: readonly Component[]): void {
    this.keep(components);
    this.valuesFor = null;
    this.changes.update((count) => count + 1);
  }

  /** A placement may be held at what was the newest revision until now. */
  private keep(components: readonly Component[]): void {
    for (const component of components) {
      const before = this.components.get(component.key);
      if (before && before.revision !== component.revision) this.held.set(`${before.key}@${before.revision}`, before);
      this.components.set(component.key, component);
    }
  }

  /** The component with everything it refers to, read once. */
  load(key: string): Observable<Component> {
    const known = this.components.get(key);
    if (known) return of(known);
    return this.api.closure(key).pipe(
      tap((closure) => this.add(closure)),
      map((closure) => closure.component),
    );
  }

  /** Reads what a body refers to and is not known yet: of a draft, of what was pasted, of an earlier revision. */
  readWhatIsMissing(body: ContentNode): void {
    for (const { target, held } of referencesOf(body)) {
      if (target.startsWith('@')) continue;
      if (!this.components.has(target)) this.ask(target, () => this.load(target));
      else if (held !== null && !this.revision(target, held))
        this.ask(`${target}@${held}`, () =>
          this.api.revision(target, held).pipe(
            tap((component) => {
              this.held.set(`${target}@${held}`, component);
              this.changes.update((count) => count + 1);
            }),
          ),
        );
    }
  }

  /** Asks once: what is not there is drawn as missing. */
  private ask(name: string, read: () => Observable<unknown>): void {
    if (this.asked.has(name)) return;
    this.asked.add(name);
    read().subscribe({ error: () => undefined });
  }

  /** Brings a picture into the library, once for each file. */
  takeIn(file: File, title: string, alt: string): Observable<Component> {
    return this.api.takeIn(file, title, alt).pipe(switchMap(({ key }) => this.load(key)));
  }

  /** Keeps the file of a film or sound, for a block that plays it. */
  keepRecording(file: File): Observable<Recording> {
    return this.api.storeRecording(file);
  }

  /** Gives an image another file; all uses follow. */
  replaceFile({ key, revision }: Component, file: File): Observable<Component> {
    return this.api.replaceFile(key, file, revision).pipe(
      switchMap(() => this.api.closure(key)),
      tap((closure) => this.add(closure)),
      map(({ component }) => component),
    );
  }

  /** Reads a component again after somebody saved it. */
  refresh(key: string): void {
    if (!this.components.has(key)) return;
    this.api.closure(key).subscribe({ next: (closure) => this.add(closure), error: () => undefined });
  }

  get(key: string): Component | undefined {
    return this.components.get(key);
  }

  revision(key: string, revision: number | null): Component | undefined {
    if (revision === null) return this.get(key);
    const newest = this.get(key);
    return newest?.revision === revision ? newest : this.held.get(`${key}@${revision}`);
  }

  /** All that is known, with a body in place of the stored one, as what it takes to read it. */
  closureOf(component: Component): ComponentClosure {
    return { component, components: [...this.components.values()], held: [...this.held.values()] };
  }

  titleOfStamp(key: string): string {
    return titleOfStamp(key, this.lens.vocabulary());
  }

  /**
   * The text that stands for a variable: its value through the lens, or null without one.
   * The engine works it out, as it does in a build.
   */
  variableText(key: string): string | null {
    const recipe = this.lens.recipe();
    if (!recipe) return null;
    if (this.valuesFor !== recipe) {
      this.values = new Map();
      this.valuesFor = recipe;
    }
    const known = this.values.get(key);
    if (known !== undefined) return known;
    const library: Library = libraryOf([...this.components.values()], [...this.held.values()]);
    const body = makeNode('phrase', null, [makeNode('variable', { key })]);
    const { content } = assembleBody({ library, ...this.lens.vocabulary(), publications: new Map() }, recipe, {
      key: '@value',
      kind: 'snippet',
      title: '',
      revision: 1,
      body,
    });
    const text = content.some((node) => node.type === 'missing') ? null : plainText(content);
    this.values.set(key, text);
    return text;
  }

  /**
   * What may stand in a slot, as far as it was read. A snippet does not know the topic that it will stand in, whose tags
   * decide: all of the collection may.
   */
  candidates(slot: Node, own: Component | null): readonly Component[] {
    const library = libraryOf([...this.components.values()]);
    const written = slot.toJSON() as ContentNode;
    if (own?.kind === 'topic') return candidatesOf(library, written, own);
    return candidatesOf(library, { ...written, attrs: { ...written.attrs, matching: null } }, undefined);
  }

  /** What a component is called, as far as it is known here. */
  titleOf(key: string): string {
    return this.get(key)?.title ?? key;
  }

  /** What a cross-reference reads in the editor: the title of its target. */
  targetTitle(component: string | null, target: string | null, own: Component | null): string {
    const found = component === null ? own : (this.get(component) ?? (own?.key === component ? own : undefined));
    if (!found) return component ?? '';
    if (target === null) return found.title;
    const body = contentBody(found);
    const titled = body ? findById(body, target) : null;
    const title = titled
      ? childrenOf(titled).find((child) => child.type === 'title' || child.type === 'caption')
      : undefined;
    return title ? plainText(childrenOf(title)) : `${found.title}, ${target}`;
  }

  linkText(key: string): string {
    const link = this.get(key);
    return link ? (link.body as LinkBody).label || (link.body as LinkBody).href : key;
  }
}

type Content = NonNullable<ReturnType<typeof contentBody>>;

function findById(node: Content, id: string): Content | null {
  if (node.attrs?.['id'] === id) return node;
  for (const child of childrenOf(node)) {
    const found = findById(child, id);
    if (found) return found;
  }
  return null;
}

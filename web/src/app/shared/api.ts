import { HttpClient, HttpErrorResponse, HttpParams } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type {
  Axis,
  BuildDetail,
  BuildRow,
  Comparison,
  Component,
  ComponentClosure,
  ComponentKind,
  ComponentLabels,
  ComponentList,
  ImportSummary,
  KnownLabels,
  NewComponent,
  PublicationCoverage,
  PublicationRow,
  ReachReport,
  RevisionRow,
  SaveComponent,
  SessionInfo,
  StoredProfile,
  StoredPublication,
  StoredVariant,
  Uses,
  VariantFreshness,
  VariantRecipe,
  Variation,
} from '@allomorph/core';
import type { Observable } from 'rxjs';

/** What the library list is narrowed to. */
export interface LibraryFilter {
  readonly find?: string;
  readonly kind?: ComponentKind | null;
  /** The snippets of one collection. */
  readonly collection?: string;
  readonly usage?: 'any' | 'unused' | 'once' | 'often';
  readonly offset?: number;
  readonly limit?: number;
}

/** The server, one method a route. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  session(): Observable<SessionInfo> {
    return this.http.get<SessionInfo>('/api/session');
  }

  signIn(name: string, password: string): Observable<SessionInfo> {
    return this.http.post<SessionInfo>('/api/session', { name, password });
  }

  signOut(): Observable<void> {
    return this.http.delete<void>('/api/session');
  }

  components(filter: LibraryFilter): Observable<ComponentList> {
    let params = new HttpParams();
    for (const [name, value] of Object.entries(filter)) {
      if (value !== null && value !== undefined && value !== '') params = params.set(name, String(value));
    }
    return this.http.get<ComponentList>('/api/components', { params });
  }

  createComponent(component: NewComponent): Observable<Component> {
    return this.http.post<Component>('/api/components', component);
  }

  closure(key: string): Observable<ComponentClosure> {
    return this.http.get<ComponentClosure>(`/api/components/${encodeURIComponent(key)}/closure`);
  }

  saveComponent(key: string, change: SaveComponent): Observable<Component> {
    return this.http.put<Component>(`/api/components/${encodeURIComponent(key)}`, change);
  }

  deleteComponent(key: string): Observable<void> {
    return this.http.delete<void>(`/api/components/${encodeURIComponent(key)}`);
  }

  restoreComponent(key: string): Observable<Component> {
    return this.http.post<Component>(`/api/components/${encodeURIComponent(key)}/restore`, {});
  }

  label(key: string, labels: ComponentLabels): Observable<Component> {
    return this.http.put<Component>(`/api/components/${encodeURIComponent(key)}/labels`, labels);
  }

  labels(): Observable<KnownLabels> {
    return this.http.get<KnownLabels>('/api/labels');
  }

  reach(key: string, change: SaveComponent): Observable<ReachReport> {
    return this.http.post<ReachReport>(`/api/components/${encodeURIComponent(key)}/reach`, change);
  }

  freshness(): Observable<readonly VariantFreshness[]> {
    return this.http.get<readonly VariantFreshness[]>('/api/freshness');
  }

  uses(key: string): Observable<Uses> {
    return this.http.get<Uses>(`/api/components/${encodeURIComponent(key)}/uses`);
  }

  revisions(key: string): Observable<readonly RevisionRow[]> {
    return this.http.get<readonly RevisionRow[]>(`/api/components/${encodeURIComponent(key)}/revisions`);
  }

  revision(key: string, revision: number): Observable<Component> {
    return this.http.get<Component>(`/api/components/${encodeURIComponent(key)}/revisions/${revision}`);
  }

  uploadImage(file: File, alt: string): Observable<Component> {
    const form = new FormData();
    form.set('file', file);
    form.set('alt', alt);
    return this.http.post<Component>('/api/images', form);
  }

  variation(): Observable<Variation> {
    return this.http.get<Variation>('/api/variation');
  }

  saveAxis(axis: Axis): Observable<void> {
    return this.http.put<void>(`/api/axes/${encodeURIComponent(axis.key)}`, axis);
  }

  deleteAxis(key: string): Observable<void> {
    return this.http.delete<void>(`/api/axes/${encodeURIComponent(key)}`);
  }

  saveProfile(profile: StoredProfile): Observable<void> {
    return this.http.put<void>(`/api/profiles/${encodeURIComponent(profile.key)}`, profile);
  }

  deleteProfile(key: string): Observable<void> {
    return this.http.delete<void>(`/api/profiles/${encodeURIComponent(key)}`);
  }

  publications(): Observable<readonly PublicationRow[]> {
    return this.http.get<readonly PublicationRow[]>('/api/publications');
  }

  publication(key: string): Observable<StoredPublication> {
    return this.http.get<StoredPublication>(`/api/publications/${encodeURIComponent(key)}`);
  }

  coverage(key: string): Observable<PublicationCoverage> {
    return this.http.get<PublicationCoverage>(`/api/publications/${encodeURIComponent(key)}/coverage`);
  }

  createPublication(title: string): Observable<StoredPublication> {
    return this.http.post<StoredPublication>('/api/publications', { title });
  }

  savePublication(publication: StoredPublication): Observable<StoredPublication> {
    const { key, revision, title, values, entries } = publication;
    return this.http.put<StoredPublication>(`/api/publications/${encodeURIComponent(key)}`, {
      base: revision,
      title,
      values,
      entries,
    });
  }

  deletePublication(key: string): Observable<void> {
    return this.http.delete<void>(`/api/publications/${encodeURIComponent(key)}`);
  }

  variants(): Observable<readonly StoredVariant[]> {
    return this.http.get<readonly StoredVariant[]>('/api/variants');
  }

  createVariant(publication: string, recipe: VariantRecipe): Observable<StoredVariant> {
    return this.http.post<StoredVariant>(`/api/publications/${encodeURIComponent(publication)}/variants`, recipe);
  }

  saveVariant(id: string, recipe: VariantRecipe): Observable<StoredVariant> {
    return this.http.put<StoredVariant>(`/api/variants/${id}`, recipe);
  }

  deleteVariant(id: string): Observable<void> {
    return this.http.delete<void>(`/api/variants/${id}`);
  }

  compare(before: string, after: string): Observable<Comparison> {
    return this.http.get<Comparison>('/api/compare', { params: { before, after } });
  }

  builds(): Observable<readonly BuildRow[]> {
    return this.http.get<readonly BuildRow[]>('/api/builds');
  }

  build(id: string): Observable<BuildDetail> {
    return this.http.get<BuildDetail>(`/api/builds/${id}`);
  }

  startBuilds(variants: readonly string[]): Observable<{ readonly builds: readonly string[] }> {
    return this.http.post<{ readonly builds: readonly string[] }>('/api/builds', { variants });
  }

  importDocbook(file: File, title: string, main: string, profiles: string): Observable<ImportSummary> {
    const form = new FormData();
    form.set('file', file);
    form.set('title', title);
    form.set('main', main);
    form.set('profiles', profiles);
    return this.http.post<ImportSummary>('/api/imports/docbook', form);
  }
}

/** The one sentence that a failed request has for the person. */
export function problemText(error: unknown): string {
  if (error instanceof HttpErrorResponse) {
    const detail = (error.error as { detail?: unknown } | null)?.detail;
    if (typeof detail === 'string') return detail;
    if (error.status === 0) return 'The server cannot be reached; nothing was saved. Is it still running?';
    return `The server answered with ${error.status}.`;
  }
  return error instanceof Error ? error.message : String(error);
}

import type { ComponentBody, ComponentKind, ComponentLabels } from '@allomorph/core';

/** A component of the demo library. */
export interface DemoComponent {
  readonly key: string;
  readonly kind: ComponentKind;
  readonly title: string;
  readonly body: ComponentBody;
  readonly labels?: ComponentLabels;
}

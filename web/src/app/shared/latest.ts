import { linkedSignal, type Resource, type Signal } from '@angular/core';

/** What a resource held last: while it is read anew, and when that fails, what was there stays. */
export function latest<Value>(resource: Resource<Value | undefined>, before: Value): Signal<Value> {
  return linkedSignal<Value | undefined, Value>({
    source: () => (resource.status() === 'resolved' || resource.status() === 'local' ? resource.value() : undefined),
    computation: (value, previous) => value ?? previous?.value ?? before,
  }).asReadonly();
}

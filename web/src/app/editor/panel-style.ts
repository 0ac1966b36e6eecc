/** How the panels beside the page look that describe a selected node. */
export const panelStyle = `
  :host {
    display: block;
    border: 1px solid var(--accent);
    border-radius: 4px;
    padding: 0.5rem 0.8rem 0.2rem;
    margin-bottom: 0.9rem;
  }
  /* What comes from another component has a stitched edge here as on the page. */
  :host(.placed) {
    border: 2px dashed color-mix(in srgb, var(--warn) 55%, transparent);
  }
  p {
    margin: 0 0 0.5rem;
  }
  a,
  .plain-button {
    color: var(--accent);
    text-decoration: underline;
    text-underline-offset: 2px;
  }
`;

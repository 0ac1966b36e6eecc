declare module 'commonmark' {
  export class Parser {
    parse(text: string): unknown;
  }
  export class HtmlRenderer {
    render(document: unknown): string;
  }
}

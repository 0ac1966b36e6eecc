/** What browsers and Node.js have alike (URL Standard, WHATWG), as far as the core uses it. */
declare class URL {
  static canParse(url: string, base?: string): boolean;
  constructor(url: string, base?: string);
  readonly protocol: string;
}

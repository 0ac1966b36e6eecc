import { cleanContent } from './reading-view';

describe('Content that is shown as it reads', () => {
  it('keeps what it is drawn by', () => {
    const table = '<table class="lines"><tbody><tr><td colspan="2" data-code="A" id="b1">x</td></tr></tbody></table>';
    expect(cleanContent(table)).toBe(table);
    expect(cleanContent('<math><mi>x</mi></math>')).toContain('<mi>x</mi>');
    expect(cleanContent('<a href="https://example.org/">y</a>')).toContain('href="https://example.org/"');
  });

  it('has nothing that runs, sends or leads astray, should the engine ever let it through', () => {
    const hostile = [
      '<img src="x" onerror="alert(1)">',
      '<script>alert(1)</script>',
      '<svg><script>alert(1)</script></svg>',
      '<a href="javascript:alert(1)">x</a>',
      '<form action="https://example.org/"><input name="password"></form>',
      '<iframe src="https://example.org/"></iframe>',
      '<p style="x" onclick="alert(1)">x</p>',
      '<math><mtext><img src=x onerror=alert(1)></mtext></math>',
    ];
    for (const html of hostile)
      expect(cleanContent(html)).not.toMatch(/onerror|onclick|<script|javascript:|<form|<input|<iframe/i);
    expect(cleanContent('<a class="reference" href="other.html">x</a>')).toBe('<a class="reference">x</a>');
  });
});

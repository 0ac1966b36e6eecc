/**
 * What programs put on the clipboard as text/html, kept as they did. Their documents are made up; the markup is not.
 * Made again by opening such a document or page, choosing all, and copying.
 */

/** LibreOffice 7.4.7 (Debian 12), Writer, by the filter that also writes its clipboard (HTML, StarWriter). */
export const writerClipboard = `<!DOCTYPE html>
<html>
<head>
	<meta http-equiv="content-type" content="text/html; charset=utf-8"/>
	<title></title>
	<meta name="generator" content="LibreOffice 7.4.7.2 (Linux)"/>
	<meta name="created" content="00:00:00"/>
	<meta name="changed" content="00:00:00"/>
	<style type="text/css">
		@page { size: 8.27in 11.69in; margin: 0.79in }
		p { line-height: 115%; margin-bottom: 0.1in; background: transparent }
		h1 { margin-bottom: 0.08in; background: transparent; page-break-after: avoid }
		h1.western { font-family: "DejaVu Sans", sans-serif; font-size: 18pt; font-weight: bold }
		h1.cjk { font-family: "DejaVu Sans"; font-size: 18pt; font-weight: bold }
		h1.ctl { font-family: "DejaVu Sans"; font-size: 18pt; font-weight: bold }
		h2 { margin-top: 0.14in; margin-bottom: 0.08in; background: transparent; page-break-after: avoid }
		h2.western { font-family: "DejaVu Sans", sans-serif; font-size: 16pt; font-weight: bold }
		h2.cjk { font-family: "DejaVu Sans"; font-size: 16pt; font-weight: bold }
		h2.ctl { font-family: "DejaVu Sans"; font-size: 16pt; font-weight: bold }
		a:link { color: #000080; text-decoration: underline }
	</style>
</head>
<body lang="en-US" link="#000080" vlink="#800000" dir="ltr"><h1 class="western">
Mounting</h1>
<p style="line-height: 100%; margin-bottom: 0in">Tighten the bolts to
<b>12 N·m</b>, and <i>never</i> more. Area: 4 m<sup>2</sup>.</p>
<h2 class="western">Steps</h2>
<ol>
	<li><p style="line-height: 100%; margin-bottom: 0in">Put the bracket
	on.</p>
	<ul>
		<li><p style="line-height: 100%; margin-bottom: 0in">Mind the seal.</p>
	</ul>
	<li><p style="line-height: 100%; margin-bottom: 0in">Tighten the
	bolts.</p>
</ol>
<p style="line-height: 100%; margin-bottom: 0in">See <a href="https://support.fennick.example/">the
support pages</a>.</p>
<table width="100%" cellpadding="0" cellspacing="0">
	<col width="128*"/>

	<col width="128*"/>

	<thead>
		<tr valign="top">
			<td width="50%" style="border: none; padding: 0in"><p>Part</p>
			</td>
			<td width="50%" style="border: none; padding: 0in"><p>Number</p>
			</td>
		</tr>
	</thead>
	<tbody>
		<tr valign="top">
			<td width="50%" style="border: none; padding: 0in"><p>Bolt</p>
			</td>
			<td width="50%" style="border: none; padding: 0in"><p>4</p>
			</td>
		</tr>
	</tbody>
</table>
<h1 class="western">Care</h1>
<p style="line-height: 100%; margin-bottom: 0in">Wipe it.</p>
</body>
</html>`;

/** Chromium 156 (Debian): a page with style sheets, all of it chosen and copied. */
export const browserClipboard = `<h1 style="color: rgb(34, 34, 34); font-family: Georgia; font-style: normal; font-variant-ligatures: normal; font-variant-caps: normal; letter-spacing: normal; orphans: 2; text-align: start; text-indent: 0px; text-transform: none; widows: 2; word-spacing: 0px; -webkit-text-stroke-width: 0px; white-space: normal; text-decoration-thickness: initial; text-decoration-style: initial; text-decoration-color: initial;">Rain gauge</h1><p style="color: rgb(34, 34, 34); font-family: Georgia; font-size: 16px; font-style: normal; font-variant-ligatures: normal; font-variant-caps: normal; font-weight: 400; letter-spacing: normal; orphans: 2; text-align: start; text-indent: 0px; text-transform: none; widows: 2; word-spacing: 0px; -webkit-text-stroke-width: 0px; white-space: normal; text-decoration-thickness: initial; text-decoration-style: initial; text-decoration-color: initial;">Empty the <span class="strong" style="font-weight: 700;">funnel</span> <em>twice</em> a year; see <a href="https://station.fennick.example/care#gauge">care</a>.</p><h2 style="color: rgb(0, 85, 85); font-family: Georgia; font-style: normal; font-variant-ligatures: normal; font-variant-caps: normal; letter-spacing: normal; orphans: 2; text-align: start; text-indent: 0px; text-transform: none; widows: 2; word-spacing: 0px; -webkit-text-stroke-width: 0px; white-space: normal; text-decoration-thickness: initial; text-decoration-style: initial; text-decoration-color: initial;">Steps</h2><ol start="2" style="color: rgb(34, 34, 34); font-family: Georgia; font-size: 16px; font-style: normal; font-variant-ligatures: normal; font-variant-caps: normal; font-weight: 400; letter-spacing: normal; orphans: 2; text-align: start; text-indent: 0px; text-transform: none; widows: 2; word-spacing: 0px; -webkit-text-stroke-width: 0px; white-space: normal; text-decoration-thickness: initial; text-decoration-style: initial; text-decoration-color: initial;"><li>Lift it off.</li><li>Turn it upside down.<ul><li>Shake it.</li></ul></li></ol><table style="color: rgb(34, 34, 34); font-family: Georgia; font-size: 16px; font-style: normal; font-variant-ligatures: normal; font-variant-caps: normal; font-weight: 400; letter-spacing: normal; orphans: 2; text-align: start; text-transform: none; widows: 2; word-spacing: 0px; -webkit-text-stroke-width: 0px; white-space: normal; text-decoration-thickness: initial; text-decoration-style: initial; text-decoration-color: initial;"><caption>Sizes</caption><thead><tr><th>Part</th><th>mm</th></tr></thead><tbody><tr><td>Funnel</td><td>160</td></tr><tr><td rowspan="2">Bucket</td><td>40</td></tr><tr><td>44</td></tr></tbody></table><pre style="color: rgb(34, 34, 34); font-size: 16px; font-style: normal; font-variant-ligatures: normal; font-variant-caps: normal; font-weight: 400; letter-spacing: normal; orphans: 2; text-align: start; text-indent: 0px; text-transform: none; widows: 2; word-spacing: 0px; -webkit-text-stroke-width: 0px; text-decoration-thickness: initial; text-decoration-style: initial; text-decoration-color: initial;"><code>RAIN  ok   0.0
TIP   12</code></pre><dl style="color: rgb(34, 34, 34); font-family: Georgia; font-size: 16px; font-style: normal; font-variant-ligatures: normal; font-variant-caps: normal; font-weight: 400; letter-spacing: normal; orphans: 2; text-align: start; text-indent: 0px; text-transform: none; widows: 2; word-spacing: 0px; -webkit-text-stroke-width: 0px; white-space: normal; text-decoration-thickness: initial; text-decoration-style: initial; text-decoration-color: initial;"><dt>Tip</dt><dd>One turn of the bucket.</dd></dl>`;

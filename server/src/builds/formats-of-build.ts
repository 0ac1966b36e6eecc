/** What a build made, format by format, as JSON: over rows of `build_formats` that are called `f`. */
export const formatsOfBuild = `coalesce(jsonb_agg(jsonb_build_object('format', f.format, 'state', f.state, 'bytes', f.bytes,
    'pages', f.pages, 'milliseconds', f.milliseconds, 'message', f.message, 'hasSeveralFiles',
    exists (select from deliverable_files d where d.build = f.build and d.format = f.format offset 1)) order by f.position), '[]')`;

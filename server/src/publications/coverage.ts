import { conditionFindings, coverageOf, routes, VariantSets, type PublicationCoverage } from '@allomorph/core';
import type { Router } from 'express';
import type { Database } from '../db/database.js';
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { readProfiles } from '../variation/variation.js';
import { readVariants } from './publications.js';
import { readSource } from './read-source.js';

/** What each variant of a publication has of each entry. */
export function coverageRoutes(router: Router, db: Database): void {
  serve(router, routes.coverage, ({ person, params }) =>
    db.snapshot(async (client): Promise<PublicationCoverage> => {
      const { workspace } = person;
      const read = await readSource(client, workspace, params.key);
      if (!read) throw new HttpProblem(404, `There is no publication “${params.key}”.`);
      const profiles = new Map((await readProfiles(client, workspace)).map((profile) => [profile.key, profile]));
      const variants = (await readVariants(client, workspace, params.key)).flatMap(({ id, profile }) => {
        const found = profiles.get(profile);
        return found ? [{ id, profile: found }] : [];
      });
      const sets = new VariantSets(
        read.source.axes,
        variants.map((variant) => variant.profile),
      );
      return {
        variants: variants.map((variant) => variant.id),
        rows: coverageOf(read.source, sets, read.publication),
        findings: variants.length === 0 ? [] : conditionFindings(read.source, sets, read.publication),
      };
    }),
  );
}

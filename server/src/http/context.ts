import { roles, type Role } from '@allomorph/core';
import type { IRouter, NextFunction, Request, Response } from 'express';
import type {} from 'express-session';
import { z } from 'zod';
import { HttpProblem } from './problem.js';

/** The person a request comes from. */
export interface Person {
  readonly id: string;
  readonly workspace: string;
  readonly name: string;
  readonly signIn: string;
  readonly role: Role;
}

declare module 'express-session' {
  interface SessionData {
    person: Person;
    token: string;
  }
}

interface RouteOptions<Params, Query, Body> {
  /** The least role that may call the route. */
  readonly role: Role;
  readonly params?: z.ZodType<Params>;
  readonly query?: z.ZodType<Query>;
  readonly body?: z.ZodType<Body>;
}

interface RouteInput<Params, Query, Body> {
  readonly person: Person;
  readonly params: Params;
  readonly query: Query;
  readonly body: Body;
  readonly request: Request;
  readonly response: Response;
}

/** Says that a handler has sent the response itself. */
export const handled = Symbol('handled');

/**
 * Adds a route that states its role and checks its input. What the handler returns is sent as JSON;
 * undefined is sent as 204.
 */
export function route<Params = unknown, Query = unknown, Body = unknown>(
  router: IRouter,
  method: 'get' | 'post' | 'put' | 'delete',
  path: string,
  options: RouteOptions<Params, Query, Body>,
  handle: (input: RouteInput<Params, Query, Body>) => Promise<unknown>,
): void {
  router[method](path, async (request: Request, response: Response, next: NextFunction) => {
    try {
      const { person } = request.session;
      if (!person) throw new HttpProblem(401, 'Sign in first.');
      requireRole(person, options.role);
      const parse = <T>(schema: z.ZodType<T> | undefined, value: unknown): T =>
        schema ? schema.parse(value) : (value as T);
      const result = await handle({
        person,
        params: parse(options.params, request.params),
        query: parse(options.query, request.query),
        body: parse(options.body, request.body),
        request,
        response,
      });
      if (result === handled) return;
      if (result === undefined) response.status(204).end();
      else response.json(result);
    } catch (error) {
      next(error);
    }
  });
}

function requireRole(person: Person, role: Role): void {
  if (roles.indexOf(person.role) < roles.indexOf(role)) {
    throw new HttpProblem(403, `This takes the role “${role}”; you are a ${person.role}.`);
  }
}

export const keyParams = z.object({ key: z.string().min(1).max(80) });
export const idParams = z.object({ id: z.uuid() });

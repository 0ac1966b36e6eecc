import { createHmac, timingSafeEqual } from 'node:crypto';

/**
 * Deliverables are read by addresses that open them, so that no session goes there with what authors wrote: each names a
 * build, for whom it was opened and until when, signed.
 */
export interface DeliverableTicket {
  readonly build: string;
  readonly person: string;
  /** Seconds since 1970. */
  readonly until: number;
}

const idBytes = 16;
const signatureBytes = 20;
const validHours = 12;

const bytesOfId = (id: string): Buffer => Buffer.from(id.replaceAll('-', ''), 'hex');
const idOfBytes = (bytes: Buffer): string =>
  bytes.toString('hex').replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');

function sign(content: Buffer, secret: string): Buffer {
  return createHmac('sha256', `deliverable ${secret}`).update(content).digest().subarray(0, signatureBytes);
}

/** The part of an address that opens a build's deliverable to a person for a while. */
export function ticketFor(build: string, person: string, secret: string, now = Date.now()): string {
  const until = Buffer.alloc(4);
  // The same for an hour, so that a browser can keep what it has read.
  until.writeUInt32BE((Math.floor(now / 3_600_000) + 1 + validHours) * 3600);
  const content = Buffer.concat([bytesOfId(build), bytesOfId(person), until]);
  return Buffer.concat([content, sign(content, secret)]).toString('base64url');
}

/** What a ticket says; null for one that is not ours or is over. */
export function readTicket(ticket: string, secret: string, now = Date.now()): DeliverableTicket | null {
  const bytes = Buffer.from(ticket, 'base64url');
  const length = 2 * idBytes + 4;
  if (bytes.length !== length + signatureBytes) return null;
  const content = bytes.subarray(0, length);
  if (!timingSafeEqual(bytes.subarray(length), sign(content, secret))) return null;
  const until = content.readUInt32BE(2 * idBytes);
  if (until * 1000 < now) return null;
  return {
    build: idOfBytes(content.subarray(0, idBytes)),
    person: idOfBytes(content.subarray(idBytes, 2 * idBytes)),
    until,
  };
}

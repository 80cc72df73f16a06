import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { actionsIn, next } from '../platform/machine.ts';
import { detectContent } from './file-content.ts';
import { claimedKind } from './file-kind.ts';
import { CONTAINER_STATES, containerTransitions, PREPARATION_STATES, preparationTransitions } from './states.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('what a file is', () => {
  const opaque = { kind: 'document', mediaType: 'application/octet-stream' };

  it.each([
    ['%PDF-1.7\n', 'drawing', 'application/pdf'],
    ['some bytes of a mail before it %PDF-1.4\n', 'drawing', 'application/pdf'],
    ['ISO-10303-21;\nHEADER;', 'model', 'application/x-step'],
    ['/* made by hand */ ISO-10303-21;', 'model', 'application/x-step'],
    ['\uFEFFISO-10303-21;', 'model', 'application/x-step'],
    ['PK\x03\x04 and so on', 'document', 'application/zip'],
    ['<?xml version="1.0"?><html xmlns="http://www.w3.org/1999/xhtml"/>', opaque.kind, opaque.mediaType],
    ['hello', opaque.kind, opaque.mediaType],
    ['', opaque.kind, opaque.mediaType],
  ])('is told by its content: %j', async (content, kind, mediaType) => {
    expect(await detectContent(bytes(content))).toEqual({ kind, mediaType });
  });

  it('is told whole or cut off, never with an error', async () => {
    const png = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 73, 72, 68, 82, 0, 0, 0, 1);
    expect(await detectContent(png)).toEqual({ kind: 'image', mediaType: 'image/png' });
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), async (content) => {
        for (const start of [png, bytes('PK\x03\x04'), bytes('%PDF'), new Uint8Array()])
          expect(await detectContent(Uint8Array.of(...start, ...content))).toHaveProperty('mediaType');
      }),
    );
  });

  it('is claimed by its extension', () => {
    expect(claimedKind('.IFC')).toBe('model');
    expect(claimedKind('.docx')).toBeUndefined();
  });
});

describe('state machines', () => {
  it('lead only to states that exist; from the archive there is one way, back to where all see it', () => {
    for (const state of CONTAINER_STATES)
      for (const action of actionsIn(containerTransitions, state))
        expect(CONTAINER_STATES).toContain(next(containerTransitions, state, action));
    expect(actionsIn(containerTransitions, 'archived')).toEqual(['bring back']);
    expect(next(containerTransitions, 'work in progress', 'publish')).toBeUndefined();
  });

  it('a killed preparation may begin again from every state', () => {
    for (const state of PREPARATION_STATES) expect(next(preparationTransitions, state, 'check')).toBe('checking');
  });
});

import * as contract from '@kindred/contract/transmittal/transmittal';
import { pipeline } from 'node:stream/promises';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as transmittal from './service.ts';
import { zipFiles } from '../platform/zip.ts';

export const transmittalRoutes = (platform: Platform): Route[] => [
  route(contract.listTransmittals, ({ actor, query }) => transmittal.listTransmittals(platform, actor, query)),
  route(contract.sendTransmittal, ({ actor, body }) => transmittal.sendTransmittal(platform, actor, body)),
  route(contract.showTransmittal, ({ actor, params }) =>
    transmittal.showTransmittal(platform, actor, params.transmittalId!),
  ),
  route(contract.acknowledgeTransmittal, ({ actor, params }) =>
    transmittal.acknowledgeTransmittal(platform, actor, params.transmittalId!),
  ),
  route(contract.downloadTransmittal, async ({ actor, params, response }) => {
    const sent = await transmittal.transmittalToDownload(platform, actor, params.transmittalId!);
    response.attachment(`Transmittal ${String(sent.number).padStart(4, '0')}.zip`);
    await pipeline(
      zipFiles(platform.store, sent.files, [`Transmittal ${sent.number}`, sent.title], (error) =>
        response.destroy(error),
      ),
      response,
    );
    await transmittal.markDownloaded(platform, actor, sent.id);
    return null;
  }),
];

/** Which other version of a drawing stands beside the one on the table. */
import { downloadVersion } from '@kindred/contract/register/register';
import { computed } from 'vue';
import { addressOf } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';
import { useOpenSheet } from './open-sheet.ts';

interface Version {
  id: string;
  number: number;
  revision: string;
  preparation: string;
  kind: string;
}

/** `named`: number of the version in the address; 0 for none. */
export function useBeside(versions: () => readonly Version[], named: () => number) {
  const project = useProject();
  const version = computed(() => versions().find(({ number }) => number === named()));
  const { source, broken } = useOpenSheet(() => {
    const open = version.value;
    if (open?.preparation !== 'ready' || (open.kind !== 'drawing' && open.kind !== 'image')) return null;
    const url = addressOf(downloadVersion, { ...project.params, versionId: open.id });
    return { versionId: open.id, url, kind: open.kind };
  });
  return { version, source, broken };
}

/** What is drawn becomes a markup: in the style of one's pen, with words, a stamp of the catalogue, or a photo. */
import { listStamps, type Stamp } from '@kindred/contract/markup/stamps';
import { MEASURING_KINDS, type MarkupShape, type MarkupStatus, type MarkupStyle } from '@kindred/core/markup/shapes';
import { fillStamp, stampFields, type StampField } from '@kindred/core/markup/stamp-text';
import { useQuery } from '@pinia/colada';
import dayjs from 'dayjs';
import { ElMessageBox } from 'element-plus';
import { computed, ref, watch } from 'vue';
import { usePreference } from '../identity/preferences.ts';
import { call } from '../platform/api.ts';
import { answered, attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { sendFile } from '../register/send-file.ts';
import type { NewMarkup } from './commands.ts';
import type { useMarkups } from './markups.ts';
import { speaksForItself } from './speaks-for-itself.ts';

interface Settings {
  markups: ReturnType<typeof useMarkups>;
  page: () => number;
  metresPerPointOf: (shape: MarkupShape) => number | undefined;
  /** Who places it, and what the sheet says of itself: what stamps are filled with. */
  me: () => { id: string; name: string } | undefined;
  sheet: () => { code: string; revision: string };
}

interface Photo {
  uploadId: string;
  /** Width over height. */
  ratio: number;
}

export function usePlacing({ markups, page, metresPerPointOf, me, sheet }: Settings) {
  const project = useProject();
  const style = usePreference<MarkupStyle>('pen', {});
  const { data } = useQuery({
    key: () => [project.projectId, 'stamp'],
    query: () => call(listStamps, { params: project.params }),
    enabled: () => project.may('markup', 'add'),
  });
  const stamps = computed(() => (data.value ?? []).filter(({ mine }) => mine));
  const stampId = ref('');
  watch(stamps, (list) => {
    if (!list.some(({ id }) => id === stampId.value)) stampId.value = '';
  });
  const stamp = computed(() => stamps.value.find(({ id }) => id === stampId.value));
  const photo = ref<Photo>();
  const sending = ref(false);
  /** What was drawn and waits for its words. */
  const pending = ref<MarkupShape | null>(null);
  const saving = ref(false);

  const newMarkup = (shape: MarkupShape, text: string, status: MarkupStatus): NewMarkup => ({
    page: page(),
    shape,
    style: style.value,
    metresPerPoint: MEASURING_KINDS.has(shape.kind) ? (metresPerPointOf(shape) ?? null) : null,
    text,
    status,
    ...(shape.kind === 'photo' && { uploadId: photo.value!.uploadId }),
  });

  async function placeStamp(shape: MarkupShape, { id, text, colour }: Stamp): Promise<void> {
    const values: Partial<Record<StampField, string>> = {
      date: dayjs().format('D MMM YYYY'),
      name: me()?.name ?? '',
      ...sheet(),
    };
    if (stampFields(text).includes('decision')) {
      const answer = await answered(
        ElMessageBox.prompt('What has been decided?', 'Stamp', {
          confirmButtonText: 'Place',
          cancelButtonText: 'Cancel',
        }),
      );
      if (!answer) return;
      values.decision = answer.value;
    }
    const words = fillStamp(text, values);
    await markups.add([{ ...newMarkup(shape, words, 'note'), style: { ...style.value, colour }, stampId: id }]);
  }

  return {
    style,
    stamps,
    stampId,
    /** Width and height of a stamp or photo that is placed by a click, in points on paper. */
    stampSize: computed((): [number, number] | undefined => stamp.value && [stamp.value.width, stamp.value.height]),
    photoSize: computed((): [number, number] => [150, 150 / (photo.value?.ratio ?? 1.5)]),
    pending,
    saving,
    /** Sends a photo that is placed next; whether there is one. */
    async sendPhoto(file: File | undefined): Promise<boolean> {
      if (!file) return false;
      photo.value = undefined;
      sending.value = true;
      const sent = await attempt(async () => {
        const { width, height } = await createImageBitmap(file).catch(() => {
          throw new Error('This file is no picture that can be shown. Choose a JPEG, PNG or WebP; nothing was placed.');
        });
        photo.value = { uploadId: await sendFile(project.projectId, file, 'markup'), ratio: width / height };
      });
      sending.value = false;
      return sent;
    },
    /** What one has to do, or wait for, while a photo is placed. */
    photoHint: computed(() => {
      if (sending.value) return 'Sending the photo …';
      return photo.value ? 'Click where the photo belongs, or drag a box for it.' : '';
    }),
    async take(shape: MarkupShape): Promise<void> {
      if (shape.kind === 'photo' && !photo.value) return;
      if (shape.kind === 'stamp' && stamp.value) await placeStamp(shape, stamp.value);
      else if (speaksForItself(shape.kind)) await markups.add([newMarkup(shape, '', 'note')]);
      else pending.value = shape;
    },
    async save(text: string, status: MarkupStatus): Promise<void> {
      saving.value = true;
      const saved = await markups.add([newMarkup(pending.value!, text, status)]);
      saving.value = false;
      if (saved) pending.value = null;
    },
  };
}

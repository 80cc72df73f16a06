import { useRoute, useRouter } from 'vue-router';

type Values = Record<string, string | undefined>;

/** What the address says after its question mark, as texts; empty where it says nothing. */
export function useRouteQuery() {
  const route = useRoute();
  const router = useRouter();
  return {
    query: (name: string): string => {
      const value = route.query[name];
      return typeof value === 'string' ? value : '';
    },
    /** Changes a part of it in place; undefined takes a part away. */
    set: async (values: Values): Promise<void> => void (await router.replace({ query: { ...route.query, ...values } })),
    /** The same as a step of its own, to which one can go back. */
    push: async (values: Values): Promise<void> => void (await router.push({ query: { ...route.query, ...values } })),
  };
}

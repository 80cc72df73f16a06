const PASSING = /^(?:\.|~|#)|(?:~|\.(?:tmp|temp|part|partial|crdownload|lock|lck|swp|bak|dwl2?))$/i;
const OF_SYSTEMS = new Set(['thumbs.db', 'ehthumbs.db', 'desktop.ini', 'icon\r']);

/** Whether operating systems and programs leave a file of this name beside those that they write: not meant for anybody else. */
export const isByProduct = (name: string): boolean => PASSING.test(name) || OF_SYSTEMS.has(name.toLowerCase());

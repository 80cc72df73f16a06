/** The part of s3rver that the tests use; it brings no types. */
declare module 's3rver' {
  export default class S3rver {
    constructor(options: {
      address: string;
      port: number;
      silent: boolean;
      directory: string;
      configureBuckets: { name: string; configs: string[] }[];
    });
    run(): Promise<{ address: string; port: number }>;
    close(): Promise<void>;
  }
}

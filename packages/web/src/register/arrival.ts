/** A file on its way in, with what will be said of it. */
export interface Arrival {
  key: number;
  /** Absent for what arrived before this page was loaded: its bytes are on the server alone. */
  file?: File;
  fileName: string;
  /** Bytes. */
  size: number;
  /** Where it goes; empty until the folders are known. */
  folderId: string;
  code: string;
  title: string;
  status: string;
  revision: string;
  classification: string;
  description: string;
  /** Numbers of issues that it answers, as somebody writes them: “12, 14”. */
  answers: string;
  state: 'waiting' | 'arriving' | 'arrived' | 'refused' | 'delivered';
  /** Bytes that have arrived. */
  sent: number;
  problem: string;
  uploadId: string;
  /** Number that the version will have … */
  version: number;
  /** … and that of the version it follows, 0 for the first. */
  onto: number;
  /** A native file that goes with the version `onto`: no version of its own. */
  goesWith: string;
  /** The person wants a version of its own all the same. */
  ownVersion: boolean;
  /** Who has reserved the container, if somebody else has. */
  reservedBy: string;
}

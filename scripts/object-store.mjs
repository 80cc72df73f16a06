/** A real object store with an S3 interface: OpenStack Swift from Debian's packages, on loopback over a folder. Needs root. */
import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { freePort, installDebian } from './postgres.mjs';

const PACKAGES = ['swift-proxy', 'swift-account', 'swift-container', 'swift-object'];
const SYSTEM_CONF = '/etc/swift/swift.conf';
const STARTS_WITHIN_MS = 60_000;
const [ACCOUNT, USER] = ['kindred', 'tester'];

export async function startObjectStore() {
  if (!fs.existsSync('/usr/bin/swift-proxy-server')) installDebian(PACKAGES);
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-swift-'));
  writeSystemConf();
  const secret = randomBytes(12).toString('hex');
  const ports = {};
  for (const kind of ['account', 'container', 'object', 'proxy']) ports[kind] = await freePort();
  const servers = [];
  for (const kind of ['account', 'container', 'object']) {
    makeRing(folder, kind, ports[kind]);
    servers.push(startServer(folder, kind, storageConf(folder, kind, ports[kind])));
  }
  servers.push(startServer(folder, 'proxy', proxyConf(folder, ports.proxy, secret)));
  const settings = {
    endpoint: `http://127.0.0.1:${ports.proxy}`,
    region: 'us-east-1',
    bucket: 'kindred',
    key: `${ACCOUNT}:${USER}`,
    secret,
  };
  const close = async () => {
    for (const server of servers) server.kill('SIGTERM');
    await Promise.all(servers.map((server) => new Promise((resolve) => server.once('exit', resolve))));
    fs.rmSync(folder, { recursive: true, force: true });
  };
  try {
    await makeBucket(settings);
  } catch (error) {
    await close();
    throw error;
  }
  return { settings, close };
}

/** Swift reads the salt of its hashes from this one place. */
function writeSystemConf() {
  if (fs.existsSync(SYSTEM_CONF) && !fs.readFileSync(SYSTEM_CONF, 'utf8').includes('changeme')) return;
  fs.mkdirSync(path.dirname(SYSTEM_CONF), { recursive: true });
  fs.writeFileSync(
    SYSTEM_CONF,
    `[swift-hash]\nswift_hash_path_suffix = kindred\nswift_hash_path_prefix = kindred\n[storage-policy:0]\nname = one\ndefault = yes\n`,
  );
}

function makeRing(folder, kind, port) {
  const builder = path.join(folder, `${kind}.builder`);
  for (const args of [['create', '4', '1', '1'], ['add', `r1z1-127.0.0.1:${port}/disk`, '1'], ['rebalance']]) {
    const result = spawnSync('swift-ring-builder', [builder, ...args], { encoding: 'utf8' });
    if (result.status > 1) throw new Error(`swift-ring-builder ${args[0]} failed:\n${result.stdout}${result.stderr}`);
  }
}

const common = (folder, port) =>
  `[DEFAULT]\nbind_ip = 127.0.0.1\nbind_port = ${port}\nworkers = 0\nuser = root\nswift_dir = ${folder}\nlog_level = ERROR\n`;

function storageConf(folder, kind, port) {
  fs.mkdirSync(path.join(folder, 'disks/disk'), { recursive: true });
  return `${common(folder, port)}devices = ${folder}/disks\nmount_check = false\nfallocate_reserve = 0\n[pipeline:main]\npipeline = ${kind}-server\n[app:${kind}-server]\nuse = egg:swift#${kind}\n`;
}

const proxyConf = (folder, port, secret) => `${common(folder, port)}
[pipeline:main]
pipeline = catch_errors gatekeeper cache listing_formats bulk s3api tempauth copy slo dlo proxy-server
[app:proxy-server]
use = egg:swift#proxy
account_autocreate = true
allow_account_management = true
[filter:tempauth]
use = egg:swift#tempauth
user_${ACCOUNT}_${USER} = ${secret} .admin
[filter:s3api]
use = egg:swift#s3api
s3_acl = false
location = us-east-1
force_swift_request_proxy_log = false
min_segment_size = 1
[filter:catch_errors]
use = egg:swift#catch_errors
[filter:gatekeeper]
use = egg:swift#gatekeeper
[filter:cache]
use = egg:swift#memcache
[filter:listing_formats]
use = egg:swift#listing_formats
[filter:bulk]
use = egg:swift#bulk
[filter:copy]
use = egg:swift#copy
[filter:slo]
use = egg:swift#slo
[filter:dlo]
use = egg:swift#dlo
`;

function startServer(folder, kind, conf) {
  const file = path.join(folder, `${kind}-server.conf`);
  fs.writeFileSync(file, conf);
  const log = fs.openSync(path.join(folder, `${kind}.log`), 'a');
  return spawn(`swift-${kind}-server`, [file, '--verbose'], { stdio: ['ignore', log, log] });
}

async function makeBucket({ endpoint, region, bucket, key, secret }) {
  const { CreateBucketCommand, S3Client } = await import('@aws-sdk/client-s3');
  const credentials = { accessKeyId: key, secretAccessKey: secret };
  const client = new S3Client({ endpoint, region, forcePathStyle: true, credentials, maxAttempts: 1 });
  for (const end = Date.now() + STARTS_WITHIN_MS; ;) {
    try {
      await client.send(new CreateBucketCommand({ Bucket: bucket }));
      return;
    } catch (error) {
      if (Date.now() > end) throw new Error(`The object store did not start: ${error.message}`, { cause: error });
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
  }
}

/**
 * Stands in for a package's own worker threads where its code is built into ours: it takes any worker
 * thread for one of its own, and the work is done here anyway.
 */
export default function noWorker(): never {
	throw new Error('no worker within a worker');
}

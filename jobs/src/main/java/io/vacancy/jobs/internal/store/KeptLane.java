// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import io.vacancy.jobs.watch.JobProgress;
import org.jspecify.annotations.Nullable;

/**
 * What one connection at a time does of a run.
 *
 * @param lease of whoever works on it; who has another one has lost it
 * @param pass how often what was blocked is tried again, from 1
 * @param chunk which chunk of the selected rows it is at
 * @param place how many rows of that chunk it has dealt with
 * @param deferred how many chunks it has put off to the next pass
 * @param batches how many steps are committed
 */
public record KeptLane(
        String job,
        int run,
        int lane,
        State state,
        String lease,
        int pass,
        int chunk,
        int place,
        int deferred,
        long batches,
        JobProgress progress) {

    /** How far it is. */
    public enum State {
        /** It takes its own chunks. */
        OPEN,
        /** It is the last one, and takes what all have put off. */
        CLOSING,
        /** Nothing is left of it. */
        OVER
    }

    /** The same at another place, one step further. */
    public KeptLane at(int toChunk, int toPlace, int chunksDeferred, JobProgress now) {
        return new KeptLane(job, run, lane, state, lease, pass, toChunk, toPlace, chunksDeferred, batches + 1, now);
    }

    /** The same in a chunk, from its beginning unless it is in it already. */
    public KeptLane in(int number) {
        return new KeptLane(
                job, run, lane, state, lease, pass, number, number == chunk ? place : 0, deferred, batches, progress);
    }

    /** The same behind a chunk. */
    public KeptLane behind(int number) {
        return new KeptLane(job, run, lane, state, lease, pass, number + 1, 0, deferred, batches, progress);
    }

    /** The same that begins a pass. */
    public KeptLane closing(int toPass) {
        return new KeptLane(job, run, lane, State.CLOSING, lease, toPass, 0, 0, 0, batches + 1, progress);
    }

    /** The same that has nothing left. */
    public KeptLane over() {
        return new KeptLane(job, run, lane, State.OVER, lease, pass, chunk, place, deferred, batches + 1, progress);
    }

    /** The same with other figures, at the same place. */
    public KeptLane with(JobProgress now) {
        return new KeptLane(job, run, lane, state, lease, pass, chunk, place, deferred, batches, now);
    }

    /** The number of the part of the receipt that its next batch is; no other lane has it. */
    public int part(int lanes) {
        return (int) (1 + lane + lanes * progress.batches());
    }

    /** Who has it is called this in the scheduler. */
    public static String instance(String job, int lane) {
        return job + "#" + lane;
    }

    static State state(@Nullable String word) {
        return State.valueOf(String.valueOf(word));
    }
}

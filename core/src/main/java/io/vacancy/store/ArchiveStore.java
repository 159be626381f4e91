package io.vacancy.store;

import io.vacancy.archive.Hold;
import io.vacancy.archive.Kept;
import io.vacancy.archive.KeptQuery;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;

/**
 * What the core asks of the place where a store keeps receipts and images. Every call but {@link #ready},
 * {@link #setUp} and {@link #script} wants that place to be set up.
 */
public interface ArchiveStore {

    /** Whether there is such a place, of the version that is wanted now. */
    boolean ready();

    /**
     * Makes the place, or brings it up to date; does nothing where it is. Runs statements that commit.
     *
     * @return the statements that were run
     */
    List<String> setUp();

    /** The statements that would make the place or bring it up to date, each without a semicolon. */
    List<String> script();

    /** What is kept, newest first. The caller closes the stream; until then it holds a connection. */
    Stream<Kept> kept(KeptQuery query);

    /** Receipts as the JSON documents that were kept of their parts, in order; empty for an unknown one. */
    List<String> receipts(String id);

    /** The holds that are in force, oldest first. */
    List<Hold> holds();

    /**
     * Places a hold.
     *
     * @param entry what the trail is told of it
     * @return it, with its number
     */
    Hold place(Hold hold, Instant now, TrailEntry entry);

    /**
     * Ends a hold.
     *
     * @param entry what the trail is told of it, if it was in force
     * @return whether it was in force
     */
    boolean release(long number, String by, Instant now, TrailEntry entry);
}

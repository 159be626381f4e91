package io.vacancy.jdbc.removal;

import io.vacancy.preview.Findings;
import io.vacancy.schema.Row;
import io.vacancy.trail.Touched;
import java.util.List;
import java.util.stream.Stream;

/** One way of doing what a request wants: first looked at, then done, in the same transaction. */
public interface Work {

    /** What would be done. Called once, before anything else. */
    Findings findings();

    /** The rows that are about to go or to change; none where rows come back, or only images go. */
    List<Taken> takes();

    /**
     * The keys of the rows that it is done to, effect by effect; none of rows that have no lasting key. Called before
     * anything goes.
     *
     * @param most how many keys of each effect
     */
    List<Touched> touched(int most);

    /** The selected rows, as they stand before it is done. */
    Stream<Row> rows();

    /** Does it. */
    void run(Findings found);

    /** Statements that can only be run once it is committed, in no transaction; it is whole without them. */
    default List<String> afterCommit() {
        return List.of();
    }

    /** What was found, with what was only counted while it was done. */
    default Findings afterwards(Findings found) {
        return found;
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import io.vacancy.jdbc.internal.session.Session;
import java.util.function.Function;
import java.util.stream.Stream;

/** In what transactions the work on Vacancy's own tables is done. */
public interface OwnTableTransactions {

    <T> T looking(Function<Session, T> look);

    <T> Stream<T> streaming(Function<Session, Stream<T>> query);

    /** Committed, if it is Vacancy's own transaction; each statement sees what others have committed. */
    <T> T writing(Function<Session, T> write);
}

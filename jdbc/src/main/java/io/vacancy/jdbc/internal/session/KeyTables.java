// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import java.util.List;
import java.util.function.UnaryOperator;

/** The key tables of one session. */
public interface KeyTables {

    /**
     * Provides an empty one, without ending the transaction.
     *
     * @param definition the statement that makes it, from its name
     * @return its name
     */
    String provide(UnaryOperator<String> definition, StatementContext context);

    /** What is to be run before what was done is committed, so that no key stays. */
    List<String> beforeCommit();

    /** What takes away, once the session is over, what it left on its connection. */
    List<String> afterwards();

    /** The session is over. */
    void release();
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.preview.Impact;
import java.util.List;

/** What the core decides on what a store has found, on the thread and inside the transaction of the store. */
public interface Decision {

    /**
     * Whether to go ahead. Asked once everything is locked and before anything is changed; where nobody is shown
     * anything, again with the full counts before the commit.
     */
    boolean goAhead(Impact found);

    /**
     * What is to be kept in Vacancy's own tables, where there are such; asked before rows are changed, and again with the
     * full counts.
     *
     * @param affected the rows that it is done to, of each effect at most as many as the plan says
     * @param part of the receipt, from 1
     */
    Records records(Impact found, List<AffectedKeys> affected, int part);

    /**
     * The same before something is done that no rollback would undo; committed before it, so that whatever happens then, it is
     * known what was about to be done.
     *
     * @param part of the receipt, from 1
     */
    Records begun(Impact found, int part);
}

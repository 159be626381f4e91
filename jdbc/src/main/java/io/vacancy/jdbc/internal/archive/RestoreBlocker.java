// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.traversal.FoundBlocker;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.RowSample;
import io.vacancy.schema.TableName;
import org.jspecify.annotations.Nullable;

/** What may stand in the way of staged images that are to become rows again; its rows t are those of the stage. */
record RestoreBlocker(StagingTable stage, FoundBlocker blocker) {

    /** How many of the staged rows it hits, and a few of them; a stage of links has no whole rows to show. */
    RowSample rows(Session session) {
        return blocker.rows(session, stage.table(), stage.name(), !stage.links());
    }

    /** What is told of it; null where it hits nothing. */
    @Nullable
    Blocker found(Session session, TableName selected) {
        // Images are staged only of what is inside the scope; what they meet outside of it is checked by itself.
        return blocker.found(session, stage.table(), stage.name(), !stage.links(), null, selected);
    }
}

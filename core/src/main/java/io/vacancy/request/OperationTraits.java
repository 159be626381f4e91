// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

/** What may be said of a request, by its operation. */
record OperationTraits(Operation operation) {

    /** Whether it removes or marks rows, one by one, as rules say. */
    boolean deletes() {
        return operation instanceof Operation.Delete
                || operation instanceof Operation.Erase
                || operation instanceof Operation.SoftDelete;
    }

    /** Whether nothing can be left out of what it means. */
    boolean meansEverything() {
        return operation instanceof Operation.Truncate
                || operation instanceof Operation.Drop
                || (operation instanceof Operation.Purge purge && purge.due());
    }

    /** Whether it selects archived rows and nothing else. */
    boolean selectsImages() {
        return operation instanceof Operation.Purge;
    }

    /** Whether rows that are marked as deleted can be meant as well as others. */
    boolean selectsMarked() {
        return operation instanceof Operation.Erase
                || operation instanceof Operation.Delete
                || operation instanceof Operation.Truncate
                || operation instanceof Operation.Blank
                || operation instanceof Operation.UnlinkOrphans;
    }

    /** Whether it archives what it removes or changes. */
    boolean archives() {
        return deletes()
                || operation instanceof Operation.Merge
                || operation instanceof Operation.Blank
                || operation instanceof Operation.Forget
                || operation instanceof Operation.Truncate
                || operation instanceof Operation.Drop
                || operation instanceof Operation.UnlinkOrphans;
    }

    /** Whether rows that are blocked can be left out, one by one. */
    boolean skipsRows() {
        return deletes()
                || operation instanceof Operation.Blank
                || operation instanceof Operation.Restore
                || operation instanceof Operation.Purge;
    }

    /** Whether a request can have rules of its own. */
    boolean takesRules() {
        return deletes() || operation instanceof Operation.Merge;
    }
}

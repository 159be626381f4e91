// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

/** How deleting works on a table, unless a request says otherwise. */
public enum Mode {
    /** Rows are removed. */
    ERASE(OperationKind.ERASE),
    /** Rows are marked and stay. */
    SOFT_DELETE(OperationKind.SOFT_DELETE);

    private final OperationKind operation;

    Mode(OperationKind operation) {
        this.operation = operation;
    }

    /** The operation that a deletion is in this mode. */
    public OperationKind operation() {
        return operation;
    }

    /** The written form: {@code erase} or {@code soft-delete}. */
    public String word() {
        return operation.word();
    }
}

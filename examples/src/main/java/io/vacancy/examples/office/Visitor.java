// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.schema.TableName;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/** The people of the office: whose rows they see, and what they may do. */
public enum Visitor {
    MIRA("Mira Holm", null, true),
    JONAS("Jonas Berg", 7, true),
    TILDA("Tilda Voss", 7, false);

    private static final ThreadLocal<Visitor> PRESENT = ThreadLocal.withInitial(() -> MIRA);

    private final String fullName;
    private final @Nullable Integer harbour;
    private final boolean mayDelete;

    Visitor(String fullName, @Nullable Integer harbour, boolean mayDelete) {
        this.fullName = fullName;
        this.harbour = harbour;
        this.mayDelete = mayDelete;
    }

    /** Who the thread works for. */
    static Visitor present() {
        return PRESENT.get();
    }

    void enters() {
        PRESENT.set(this);
    }

    static void leaves() {
        PRESENT.remove();
    }

    String fullName() {
        return fullName;
    }

    /** The one harbour whose rows are seen, or null for all. */
    @Nullable
    Integer harbour() {
        return harbour;
    }

    public String told() {
        return fullName
                + (harbour == null ? ", every harbour" : ", harbour " + harbour)
                + (mayDelete ? "" : ", may only look");
    }

    /** Rows of the visitor's harbour; yards are shared by all. */
    Scope scope() {
        return harbour == null
                ? Scope.everything()
                : Scope.where("harbour_id", harbour).open("yard");
    }

    static @Nullable String refusal(String actor, TableName table, Act act) {
        boolean looks = act == Act.LOOK || act == Act.READ_ARCHIVE || act == Act.READ_HISTORY;
        boolean may = Arrays.stream(values()).anyMatch(each -> each.fullName.equals(actor) && each.mayDelete);
        return looks || may ? null : actor + " may not " + act.words() + " " + table + ".";
    }
}

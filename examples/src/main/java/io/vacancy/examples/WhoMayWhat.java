// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;

/** Scope, permission and listener: one harbour does not see the other's boats, and not everybody may erase. */
public class WhoMayWhat {

    public static void main(String[] args) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .actor(() -> "Tavi Orn")
                .scope(() -> Scope.where("harbour_id", 7).open("yard"))
                .permission((who, table, act) ->
                        act == Act.ERASE && table.is("skipper") ? who + " may not " + act.words() + " skipper." : null)
                .listener(new Listener() {
                    @Override
                    public void ended(Request request, Outcome outcome) {
                        System.out.println("heard:   " + request.table() + " "
                                + outcome.state().word());
                    }
                })
                .open();

        System.out.println(
                vacancy.execute(Request.delete("boat").key(18).expect(1)).message());
        System.out.println(
                vacancy.execute(Request.delete("skipper").key(4).expect(1)).message());
        System.out.println(
                vacancy.execute(Request.delete("boat").key(12).expect(1)).message());
    }
}

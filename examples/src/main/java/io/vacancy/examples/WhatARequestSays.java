// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.RuleBook;
import java.util.List;
import java.util.Map;
import javax.sql.DataSource;

/** A request begins with its operation and cannot contradict itself; with an id of its own it is carried out once. */
public class WhatARequestSays {

    public static void main(String[] args) {
        DataSource dataSource = Harbour.fresh();
        RuleBook rules = RuleBook.build(book -> book.table(
                "berth_contract", t -> t.marker(Marker.versions(List.of("contract_no"), "valid_from", "valid_until"))));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(dataSource))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        Receipt receipt = vacancy.execute(
                        Request.erase("fee").key(704).id("form-4711").expect(1))
                .receiptOrThrow();

        vacancy.preview(Request.erase("boat").key(17));
        vacancy.preview(Request.replace("berth_contract")
                .where(column("contract_no").equalTo(2))
                .with(Map.of("rent", 790))
                .from("2030-01-01"));
        vacancy.preview(
                Request.delete("boat").key(17).plus(Request.delete("fee").key(708)));
        vacancy.preview(Request.restore(receipt.id()));
        vacancy.preview(Request.restore("fee").key(704));
        vacancy.preview(Request.purge("fee").key(704));

        try {
            Request.purge(receipt.id()).includingMarked();
        } catch (MisuseException contradiction) {
            System.out.println(contradiction.getMessage());
        }
        Outcome again =
                vacancy.execute(Request.erase("fee").key(704).id("form-4711").expect(1));
        System.out.println(again.receiptOrThrow().id().equals(receipt.id()) + ", "
                + again.message().substring(0, 18));
    }
}

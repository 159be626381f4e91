// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.spi.Store;
import java.util.List;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

class MemoryStoreTest {

    @Nested
    class KeepsTheContract extends StoreContract {

        @Override
        protected Store store(List<Row> rows) {
            MemoryStore store = MemoryStore.of(SCHEMA);
            rows.forEach(row ->
                    store.insert(row.table().toString(), row.values().values().toArray()));
            return store;
        }

        @Override
        protected long count(Store store, String table) {
            return ((MemoryStore) store).rows(table).size();
        }
    }

    private final MemoryStore store = MemoryStore.of(new MemorySchema()
            .table("boat", "id integer key", "name text null")
            .table("mooring", "id integer key", "boat_id integer")
            .relation("mooring", "boat_id", "boat")
            .build());

    @Test
    void rowsThatNameSeveralParentsGoWithAnyOfThem() {
        MemoryStore lists = MemoryStore.of(new MemorySchema()
                .table("boat", "id integer key")
                .table("tour", "id integer key", "boat_ids text null")
                .build());
        lists.insert("boat", 1);
        lists.insert("boat", 11);
        lists.insert("tour", 1, "[11, 12]");
        lists.insert("tour", 2, "1,11");
        lists.insert("tour", 3, "");
        lists.insert("tour", 4, null);
        Vacancy vacancy = Vacancy.on(lists)
                .rules(RuleBook.build(book -> book.relation("tour.boat_ids[] -> boat.id", Rule.cascade())))
                .actor(() -> "Mira Holm")
                .open();

        vacancy.execute(Request.erase("boat").key(1).expect(1)).receiptOrThrow();

        assertThat(lists.rows("tour")).extracting(row -> row.get("id")).containsExactly(1L, 3L, 4L);
    }

    @Test
    void rowsAreCheckedAsADatabaseWould() {
        store.insert("boat", 1, null);
        assertThatThrownBy(() -> store.insert("boat", 1, "Tern")).hasMessageContaining("has a row [1] already");
        assertThatThrownBy(() -> store.insert("boat", 2)).hasMessageContaining("1 values are given for the 2 columns");
        assertThatThrownBy(() -> store.insert("boat", "two", null)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> store.insert("mooring", 1, 9))
                .hasMessageContaining("refers through mooring.boat_id to a row that is not there");
        assertThat(store.rows("boat")).hasSize(1);
    }

    @Test
    void columnsAreWrittenInOneWay() {
        assertThatThrownBy(() -> new MemorySchema().table("boat", "id integer")).hasMessage("Table boat has no key.");
        assertThatThrownBy(() -> new MemorySchema().table("boat", "id")).hasMessageContaining("\"id\" is not a column");
        assertThatThrownBy(() -> new MemorySchema().table("boat", "id number key"))
                .hasMessageContaining("\"number\" is not a kind of value");
    }

    @Test
    void assertionsFailWithWhatThereIs() {
        store.insert("boat", 1, "Tern").insert("mooring", 10, 1);
        Vacancy vacancy = Vacancy.on(store).actor(() -> "a test").open();
        PreviewAssert preview = VacancyAssertions.assertThatPreviewOf(
                vacancy, Request.erase("boat").key(1));
        preview.isBlockedBy("mooring.boat_id", 1).deletes("boat", 1).leavesAlone("mooring");
        assertThatThrownBy(preview::isReady)
                .isInstanceOf(AssertionError.class)
                .hasMessageContaining("to be ready, but it is blocked, blocked by [1 of mooring");
        assertThatThrownBy(() -> preview.deletes("boat", 2))
                .isInstanceOf(AssertionError.class)
                .hasMessageContaining("Expected 2 rows of boat to be deleted, but there are 1")
                .hasMessageContaining("delete 1 of boat");
        assertThatThrownBy(() -> VacancyAssertions.assertThat(vacancy.rules()).decideEveryRelation())
                .isInstanceOf(AssertionError.class)
                .hasMessageContaining("it says nothing of [mooring.boat_id]");
        Vacancy decided = Vacancy.on(store)
                .actor(() -> "a test")
                .rules(RuleBook.build(book -> book.relation("mooring.boat_id", io.vacancy.rules.Rule.cascade())))
                .open();
        VacancyAssertions.assertThat(decided.rules()).decideEveryRelation();
        VacancyAssertions.assertThatPreviewOf(decided, Request.erase("boat").key(1))
                .deletes("mooring", 1)
                .deletes("boat", 1)
                .leavesOtherTablesAlone();
    }

    @Test
    void whatThereIsNotInMemoryIsRefused() {
        Vacancy vacancy = Vacancy.on(store).actor(() -> "a test").open();
        assertThatThrownBy(() -> vacancy.within("a connection")).hasMessageContaining("joins no transaction");
        assertThatThrownBy(() ->
                        vacancy.execute(Request.unlinkOrphans("mooring.boat_id").withoutConfirmation("a test")))
                .isInstanceOf(MisuseException.class);
    }
}

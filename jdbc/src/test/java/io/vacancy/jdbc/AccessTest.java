// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.engines.Engine;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.List;

class AccessTest {

    @OnEveryEngine
    void aKeyOutsideTheScopeIsNothing(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy other = scoped(bench, 8);

        assertThat(other.preview(Request.delete("boat").key(17)).state()).isEqualTo(Preview.State.NOTHING);
        assertThat(other.execute(Request.delete("boat").key(17).expect(1))).isInstanceOf(Outcome.Nothing.class);
        assertThat(other.execute(Request.delete("boat").key(18).expect(1))).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("boat")).isEqualTo(7);
    }

    @OnEveryEngine
    void aRuleThatWouldCrossTheScopeBlocksWithoutTellingWhatItSaw(Engine engine) {
        Bench bench = Bench.harbour(engine);
        bench.database()
                .run(
                        "UPDATE fee SET harbour_id = 8 WHERE id IN (706, 707)",
                        "UPDATE work_order SET harbour_id = 8 WHERE id = 81");

        Preview preview = scoped(bench, 7).preview(Request.delete("boat").key(17));

        assertThat(preview.state()).isEqualTo(Preview.State.BLOCKED);
        assertThat(preview.blockers()).containsExactly(Blocker.hidden(TableName.of("boat")));
        assertThat(DeletionTest.lines(preview.effects())).contains("delete fee 1 fee.mooring_id");
        assertThat(scoped(bench, 7).execute(Request.delete("boat").key(17).expect(1)))
                .isInstanceOf(Outcome.Blocked.class);
        assertThat(bench.count("fee")).isEqualTo(9);
    }

    @OnEveryEngine
    void permissionIsAskedBeforeAnythingIsShown(Engine engine) {
        Bench bench = Bench.harbour(engine);
        List<String> asked = new ArrayList<>();
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Tavi Orn")
                .permission((who, table, act) -> {
                    asked.add(act + " " + table);
                    boolean refused = table.name().equals("fee") && act == Act.LOOK || act == Act.CHANGE_LINKS;
                    return refused ? who + " may not " + act.words() + " " + table + "." : null;
                })
                .open();

        Preview preview = vacancy.preview(Request.delete("boat").key(17));
        assertThat(preview.state()).isEqualTo(Preview.State.REFUSED);
        assertThat(preview.refusal()).isEqualTo("Tavi Orn may not look at fee.");
        assertThat(preview.effects()).isEmpty();
        assertThat(preview.records()).isEmpty();
        assertThat(asked).contains("LOOK boat", "LOOK mooring");

        bench.database().run("DELETE FROM fee");
        Outcome outcome = vacancy.execute(Request.delete("boat").key(17).expect(1));
        assertThat(outcome).isInstanceOf(Outcome.Refused.class);
        assertThat(outcome.message()).isEqualTo("Tavi Orn may not change links of work_order. Nothing was changed.");
        assertThat(bench.count("boat")).isEqualTo(8);
    }

    @OnEveryEngine
    void aListenerHearsOfPreviewsAndOutcomes(Engine engine) {
        Bench bench = Bench.harbour(engine);
        List<String> heard = new ArrayList<>();
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .listener(new Listener() {
                    @Override
                    public void previewed(Preview preview) {
                        heard.add("previewed " + preview.table());
                    }

                    @Override
                    public void ended(Request request, Outcome outcome) {
                        heard.add(outcome.state().word() + " " + request.table() + ", boats left: "
                                + bench.count("boat"));
                    }
                })
                .open();

        Preview seen = vacancy.preview(Request.delete("boat").key(17));
        vacancy.execute(seen, seen.question().answer("no"));
        vacancy.execute(seen, seen.question().answer("yes"));

        assertThat(heard).containsExactly("previewed boat", "declined boat, boats left: 8", "done boat, boats left: 7");
    }

    private static Vacancy scoped(Bench bench, int harbour) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .scope(() -> Scope.where("harbour_id", harbour))
                .open();
    }
}

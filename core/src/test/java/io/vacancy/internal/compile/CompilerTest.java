// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.compile;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.SchemaBuilder;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.Program;
import io.vacancy.spi.plan.RelationStep;
import java.util.List;
import org.junit.jupiter.api.Test;

class CompilerTest {

    @Test
    void followsWhatCascadesAndHoldsWhatDoesNot() {
        Schema schema = new SchemaBuilder()
                .table("boat", "id")
                .table("mooring", "id", "boat_id")
                .table("fee", "id", "mooring_id")
                .table("inspection", "id", "boat_id")
                .table("work_order", "id", "boat_id")
                .relation("mooring", "boat_id", "boat", OnDelete.CASCADE)
                .relation("fee", "mooring_id", "mooring", OnDelete.CASCADE)
                .relation("inspection", "boat_id", "boat", OnDelete.NO_ACTION)
                .relation("work_order", "boat_id", "boat", OnDelete.SET_NULL)
                .build();

        Program program = compile(schema, "boat");

        assertThat(names(program.tables())).containsExactly("boat", "mooring", "fee");
        assertThat(relations(program.holds())).containsExactly("inspection.boat_id");
        assertThat(relations(program.changes())).containsExactly("work_order.boat_id");
        assertThat(program.removals().stream()
                        .flatMap(step -> step.tables().stream())
                        .map(TableName::name))
                .containsExactly("fee", "mooring", "boat");
    }

    @Test
    void removesChildrenFirstAlsoByRelationsThatDoNotCascade() {
        // fee and mooring both hang on boat; between them nothing cascades, but mooring still refers to fee.
        Schema schema = new SchemaBuilder()
                .table("boat", "id")
                .table("fee", "id", "boat_id")
                .table("mooring", "id", "boat_id", "fee_id")
                .relation("fee", "boat_id", "boat", OnDelete.CASCADE)
                .relation("mooring", "boat_id", "boat", OnDelete.CASCADE)
                .relation("mooring", "fee_id", "fee", OnDelete.NO_ACTION)
                .build();

        Program program = compile(schema, "boat");

        assertThat(program.removals().stream().map(step -> step.tables().get(0).name()))
                .containsExactly("mooring", "fee", "boat");
        assertThat(relations(program.holds())).containsExactly("mooring.fee_id");
    }

    @Test
    void groupsTablesThatReachOneAnotherIntoOneComponent() {
        Schema schema = new SchemaBuilder()
                .table("pier", "id", "head_berth_id")
                .table("berth", "id", "pier_id")
                .table("lamp", "id", "berth_id")
                .relation("berth", "pier_id", "pier", OnDelete.CASCADE)
                .relation("pier", "head_berth_id", "berth", OnDelete.CASCADE)
                .relation("lamp", "berth_id", "berth", OnDelete.CASCADE)
                .build();

        Program program = compile(schema, "pier");

        assertThat(program.components()).hasSize(2);
        assertThat(names(program.components().get(0).tables())).containsExactlyInAnyOrder("pier", "berth");
        assertThat(relations(program.components().get(0).within()))
                .containsExactlyInAnyOrder("berth.pier_id", "pier.head_berth_id");
        assertThat(program.components().get(1).within()).isEmpty();
        assertThat(program.removals().get(1).circle()).hasSize(2);
    }

    @Test
    void ordersSharedTablesAlikeWhicheverTableAProgramStartsFrom() {
        Schema schema = new SchemaBuilder()
                .table("a", "id")
                .table("b", "id")
                .table("x", "id", "a_id", "b_id")
                .table("y", "id", "a_id", "b_id", "x_id")
                .relation("x", "a_id", "a", OnDelete.CASCADE)
                .relation("x", "b_id", "b", OnDelete.CASCADE)
                .relation("y", "a_id", "a", OnDelete.CASCADE)
                .relation("y", "b_id", "b", OnDelete.CASCADE)
                .relation("y", "x_id", "x", OnDelete.NO_ACTION)
                .build();

        assertThat(names(compile(schema, "a").tables())).containsExactly("a", "x", "y");
        assertThat(names(compile(schema, "b").tables())).containsExactly("b", "x", "y");
    }

    @Test
    void compilesAChainOfTablesDeeperThanAThreadsStackWouldAllow() {
        SchemaBuilder builder = new SchemaBuilder().table("t0", "id");
        for (int i = 1; i < 3_000; i++) {
            builder.table("t" + i, "id", "up").relation("t" + i, "up", "t" + (i - 1), OnDelete.CASCADE);
        }

        assertThat(compile(builder.build(), "t0").tables()).hasSize(3_000);
    }

    private static Program compile(Schema schema, String root) {
        return new Compiler(ResolvedRules.fit(RuleBook.empty(), schema))
                .compile(TableName.of(root), OperationKind.ERASE);
    }

    private static List<String> names(List<TableName> tables) {
        return tables.stream().map(TableName::name).toList();
    }

    private static List<String> relations(List<RelationStep> branches) {
        return branches.stream().map(branch -> branch.relation().name()).toList();
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.SchemaBuilder;
import io.vacancy.failure.MisuseException;
import java.util.List;
import org.junit.jupiter.api.Test;

class NamesTest {

    private final Schema schema = new SchemaBuilder()
            .table("boat", "id")
            .table("mooring", "id", "boat_id", "arrived_on")
            .relation("mooring", "boat_id", "boat", OnDelete.CASCADE)
            .build();

    @Test
    void saysWhichNameWasProbablyMeant() {
        assertThatThrownBy(() -> schema.table("bota"))
                .isInstanceOf(MisuseException.class)
                .hasMessage("Table bota is not in the database; did you mean boat?");
        assertThatThrownBy(() -> schema.table("mooring").column("arivd_on"))
                .hasMessage("Column arivd_on is not in table mooring; did you mean arrived_on?");
        assertThatThrownBy(() -> schema.relation("mooring.boat")).hasMessageEndingWith("did you mean mooring.boat_id?");
    }

    @Test
    void suggestsNothingWhereNothingIsNear() {
        assertThatThrownBy(() -> schema.table("warehouse")).hasMessage("Table warehouse is not in the database.");
    }

    @Test
    void understandsAnotherCaseUnlessTwoTablesCouldBeMeant() {
        assertThat(schema.table("Boat").name()).isEqualTo(TableName.of("boat"));
        Schema twins =
                new SchemaBuilder().table("Boat", "id").table("boat", "id").build();
        assertThat(twins.table("Boat").name().name()).isEqualTo("Boat");
        assertThatThrownBy(() -> twins.table("BOAT")).isInstanceOf(MisuseException.class);
    }

    @Test
    void tellsRelationsFromTheSameColumnApartByTheirParents() {
        Schema both = new SchemaBuilder()
                .table("boat", "id")
                .table("raft", "id")
                .table("rope", "id", "craft_id")
                .relation("rope", "craft_id", "boat", OnDelete.CASCADE)
                .relation("rope", "craft_id", "raft", OnDelete.CASCADE)
                .build();

        assertThat(both.relations())
                .extracting(Relation::name)
                .isEqualTo(List.of("rope.craft_id -> boat.id", "rope.craft_id -> raft.id"));
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

class ExamplesTest {

    @Test
    void theFirstProgramShowsAsksAndDeletes() {
        assertThat(output(() -> FirstProgram.main(new String[0])))
                .contains("Erase boat Osprey (id 17)?")
                .contains("14 rows of 4 tables will be deleted with it")
                .contains("Erased 1 row of boat and 14 rows with it; receipt ");
    }

    @Test
    void deletingOnePrintsIt() {
        assertThat(output(() -> DeleteOneAndPrintIt.main(new String[0])))
                .contains("gone:    Osprey, HV-204")
                .contains("5 delete power_reading")
                .contains("2 set-null work_order")
                .contains("again:   nothing - Table boat has no row with id 17");
    }

    @Test
    void aBlockedDeletionSaysWhy() {
        assertThat(output(() -> BlockedAndWhy.main(new String[0])))
                .contains("2 of inspection through inspection.boat_id: still refers to it")
                .contains("2026-04-20 passed")
                .endsWith("Nothing was changed.\n");
    }

    @Test
    void theOtherExamplesSayWhatTheyShow() {
        assertThat(output(() -> RulesOfTheHarbour.main(new String[0])))
                .isEqualTo("Osprey (HV-204): blocked\n  1 of fee: unpaid\nTeal (HV-121): ready\n");
        assertThat(output(() -> call(() -> WithinATransaction.main(new String[0]))))
                .isEqualTo("inside:         done\nrolled back:    ready\n");
        assertThat(output(() -> WhoMayWhat.main(new String[0])))
                .contains("heard:   boat nothing")
                .contains("Tavi Orn may not erase rows of skipper. Nothing was changed.")
                .contains("heard:   boat done");
        assertThat(output(() -> call(() -> AnsweredElsewhere.main(new String[0]))))
                .startsWith(
                        "Erase boat Osprey (id 17)?\nchanged: It has changed since it was shown: It is not what the fingerprint stands for.");
    }

    @Test
    void choosingLooksLimitsAndNarrows() {
        assertThat(output(() -> ManyWithALimit.main(new String[0])))
                .contains("505 left on 2024-09-30")
                .contains("The selection has 3 rows of mooring, and at most 2 may be deleted at once.")
                .endsWith("2 gone\n");
        assertThat(output(() -> ListedAndDecided.main(new String[0])))
                .isEqualTo("not there: 9999\nlisted:    2\ndecided:   1\n");
        assertThat(output(() -> ChosenByRelatedRows.main(new String[0]))).isEqualTo("""
                        idle: Gannet
                        idle: Plover
                        idle: Dunlin
                        as text: 3
                        boat 17: blocked
                          1 of mooring: something is unpaid
                        boat 12: ready
                        """);
        assertThat(output(() -> TwoThatAreOne.main(new String[0]))).isEqualTo("""
                        Merge skipper Tavi Orn (id 2) into Mira Holm (id 1)?
                          1 of skipper deleted
                          1 of boat: boat.co_skipper_id becomes 1
                          2 of boat: boat.skipper_id becomes 1
                        berth.pier_id: they would share pier_id, number with other rows of berth
                        back: done
                        """);
        assertThat(output(() -> ForgottenButBooked.main(new String[0]))).isEqualTo("""
                        Blank skipper Mira Holm (id 1)?
                          The row stays, and so do its links.
                          In 1 row of skipper, which stays: name becomes skipper {id}, email becomes \
                        skipper-{id}@blank.invalid, phone becomes NULL.
                          A copy is archived, from which it can be restored.
                        skipper 1, skipper-1@blank.invalid
                        Mira Holm, mira@harbour.example
                        """);
        assertThat(output(() -> PersonForgotten.main(new String[0])))
                .startsWith("skipper 2\n")
                .contains("boat 13\n", "inspection 31\n", "power_reading 9003\n")
                .contains("""
                        Forget skipper Tavi Orn (id 2)?
                          The row itself stays, without what is personal in it.
                          In 1 row of skipper, which stays: name becomes skipper {id}, email becomes \
                        skipper-{id}@blank.invalid, phone becomes NULL.
                          2 rows of boat are kept as they are: the register of boats.
                          A copy is archived, from which it can be restored.
                          What is personal is in that copy until it is purged.
                        """)
                .contains("\"copies\" : 0", "\"kind\" : \"purge\"");
        assertThat(output(() -> SeveralTables.main(new String[0]))).isEqualTo("""
                        alone: blocked
                        Erase boat Osprey (id 17) and fee id 708 and 2 rows of work_order where yard_id = 1?
                        boat: 1
                        fee: 1
                        work_order: 2
                        back:  blocked
                        """);
        assertThat(output(() -> call(() -> DroppedAndMadeAgain.main(new String[0]))))
                .isEqualTo("""
                        mooring: blocked
                        Drop table radio_message with all its 4 rows? Type radio_message.
                        back: 4 rows of radio_message
                        """);
        assertThat(output(() -> call(() -> KeyForEachPerson.main(new String[0]))))
                .isEqualTo("to be restored: ready\nwithout the key: blocked\n");
        assertThat(output(() -> SecondPerson.main(new String[0]))).isEqualTo("""
                        waiting: mooring, more than 2 rows
                        Mira Holm asks: Erase 3 rows of mooring?
                        done, on the account of Mira Holm
                        """);
        assertThat(output(() -> call(() -> FilesFollowTheirRows.main(new String[0]))))
                .isEqualTo("erased, and archived: kept\npurged:               removed\n");
        assertThat(output(() -> NamedAndGuarded.main(new String[0])))
                .isEqualTo("Erase 3 rows of mooring where left_on < DATE '2025-12-31'?\ntype 10 (count)\n");
        assertThat(output(() -> MovedAndSkipped.main(new String[0])))
                .contains("work_order.yard_id becomes 2.")
                .contains("t0 -.->|\"reassign × 2<br/>yard_id\"| t1")
                .contains("would go, ")
                .contains("because of inspection.boat_id: kept for the insurer");
        assertThat(output(() -> WatchedAndGivenUp.main(new String[0])))
                .startsWith("Cancelled while ")
                .endsWith("Nothing was changed.\n");
    }

    @Test
    void markedRowsComeBack() {
        assertThat(output(() -> call(() -> MarkedAndBack.main(new String[0])))).endsWith("""
                        active:   ActiveCounts[activeBefore=6, storedBefore=8, activeAfter=5, storedAfter=8, leftOut=0]
                        again:    nothing
                        back:     ready
                        SELECT b.name FROM boat b WHERE b."left_on" IS NULL
                        """);
    }

    @Test
    void aJobIsOrderedAndWatched() {
        assertThat(output(() -> call(() -> OrderedAndWatched.main(new String[0]))))
                .startsWith("Job small-readings is scheduled for ")
                .contains("heard: running")
                .contains("Job small-readings is done: ", " selected rows handled, ")
                .containsPattern("restored: [1-9]");
    }

    @Test
    void otherLibrariesCommitWhatIsDeletedOnTheirConnections() {
        assertThat(output(() -> call(() -> InTheirTransactions.main(new String[0]))))
                .isEqualTo("""
                        told: by jOOQ done
                        told: by Jdbi done
                        told: by MyBatis done
                        NOTHING
                        """);
    }

    @Test
    void somebodyIsToldByMail() {
        assertThat(output(() -> call(() -> ToldByMail.main(new String[0]))))
                .startsWith("to mira.holm@harbour.example: Job small-readings: done")
                .contains("Job small-readings is done: ", "Ordered by Mira Holm.");
    }

    @Test
    void whatIsKeptComesBack() {
        assertThat(output(() -> call(() -> KeptAndBack.main(new String[0])))).isEqualTo("""
                        1 boat by Mira Holm, because: sold
                        Restore boat Osprey (id 17)? 10 rows
                        blocked
                        Purge 2 archived rows of boat?
                        done
                        """);
    }

    @Test
    void whoDidWhatIsTold() {
        assertThat(output(() -> call(() -> WhoDidWhat.main(new String[0])))).isEqualTo("""
                        heard: done
                        heard: done
                        heard: done
                        heard: done
                        heard: blocked
                        restore by Mira Holm for the skipper, 1 row
                        erase by Mira Holm for the skipper, 1 row
                        restore by Mira Holm for the skipper, 1 row
                        soft-delete by Mira Holm for the skipper, 1 row
                        Osprey
                        blocked, because of 2 rows of boat through boat.skipper_id: still refers to it
                        3
                        heard: done
                        true, 6 sealed
                        {"specversion":"1.0","
                        {"specversion":"1.0","
                        {"specversion":"1.0","
                        {"specversion":"1.0","
                        {"specversion":"1.0","
                        5 passed on
                        """);
    }

    @Test
    void aRequestIsOneThingAndIsDoneOnce() {
        assertThat(output(() -> WhatARequestSays.main(new String[0])))
                .isEqualTo("includingMarked(…) cannot be said of a request to purge: the operation itself says"
                        + " whether marked rows are meant.\ntrue, It was done before\n");
    }

    private interface Program {
        void run() throws Exception;
    }

    private static void call(Program program) {
        try {
            program.run();
        } catch (Exception failed) {
            throw new IllegalStateException(failed);
        }
    }

    @Test
    void thePagesShowCodeThatStandsInTheExamples() throws Exception {
        StringBuilder sources = new StringBuilder();
        try (var files = Files.list(Path.of("src/main/java/io/vacancy/examples"))) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                sources.append(flat(Files.readString(file)));
            }
        }
        Matcher snippets = Pattern.compile("(?s)```java\n(.*?)```")
                .matcher(Files.readString(Path.of("../docs/java.md"))
                        + Files.readString(Path.of("../docs/choosing.md"))
                        + Files.readString(Path.of("../docs/rule-book.md"))
                        + Files.readString(Path.of("../docs/archive.md"))
                        + Files.readString(Path.of("../docs/merging.md"))
                        + Files.readString(Path.of("../docs/blanking.md"))
                        + Files.readString(Path.of("../docs/dropping.md"))
                        + Files.readString(Path.of("../docs/approvals.md"))
                        + Files.readString(Path.of("../docs/persons.md"))
                        + Files.readString(Path.of("../docs/history.md"))
                        + Files.readString(Path.of("../docs/recipes.md"))
                        + Files.readString(Path.of("../docs/soft-delete.md")));
        int shown = 0;
        while (snippets.find()) {
            assertThat(sources.toString()).contains(flat(snippets.group(1)));
            shown++;
        }
        assertThat(shown).isGreaterThan(5);
    }

    @Test
    void theReadmeShowsTheFirstProgramAsItRuns() throws Exception {
        Path root = Path.of("..");
        String source = Files.readString(root.resolve("examples/src/main/java/io/vacancy/examples/FirstProgram.java"));
        Matcher shown = Pattern.compile("(?s)```java\n(.*?)```").matcher(Files.readString(root.resolve("README.md")));

        assertThat(shown.find()).isTrue();
        String program = shown.group(1).strip();
        assertThat(program.lines()).hasSizeLessThan(30);
        assertThat(flat(source.replaceAll("(?s)/\\*\\*.*?\\*/", ""))).contains(flat(program));
    }

    private static String flat(String code) {
        return code.replaceAll("\\s+", "");
    }

    private static String output(Runnable program) {
        PrintStream before = System.out;
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            System.setOut(new PrintStream(out, true, StandardCharsets.UTF_8));
            program.run();
        } finally {
            System.setOut(before);
        }
        return out.toString(StandardCharsets.UTF_8);
    }
}

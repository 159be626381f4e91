// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "io.vacancy.jdbc", importOptions = DoNotIncludeTests.class)
class JdbcArchitectureTest {

    @ArchTest
    static final ArchRule usesWhatItIsNamedAfterAndNoMore = noClasses()
            .should()
            .dependOnClassesThat()
            .resideOutsideOfPackages(
                    "java..",
                    "io.vacancy..",
                    "org.jspecify..",
                    "javax.sql..",
                    "com.fasterxml.jackson..",
                    "org.slf4j..");

    @ArchTest
    static final ArchRule packagesDependOneWayOnly =
            slices().matching("io.vacancy.jdbc.(**)").should().beFreeOfCycles().allowEmptyShould(true);

    @ArchTest
    static final ArchRule usesNoneOfTheInsideOfTheCoreButItsChecks = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "io.vacancy.internal.audit..",
                    "io.vacancy.internal.compile..",
                    "io.vacancy.internal.execute..",
                    "io.vacancy.internal.graph..",
                    "io.vacancy.internal.judge..",
                    "io.vacancy.internal.message..",
                    "io.vacancy.internal.resolve..");

    @ArchTest
    static final ArchRule nobodyAsksWhichEngineItIs = noClasses()
            .that()
            .resideOutsideOfPackage("io.vacancy.jdbc.internal.engine..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "io.vacancy.jdbc.internal.engine.h2",
                    "io.vacancy.jdbc.internal.engine.mariadb",
                    "io.vacancy.jdbc.internal.engine.postgresql",
                    "io.vacancy.jdbc.internal.engine.sqlite");

    @ArchTest
    static final ArchRule anEngineKnowsNothingButWhatAnEngineBrings = noClasses()
            .that()
            .resideInAPackage("io.vacancy.jdbc.internal.engine..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "io.vacancy.jdbc.internal.session..",
                    "io.vacancy.jdbc.internal.sql..",
                    "io.vacancy.jdbc.internal.schema..",
                    "io.vacancy.jdbc.internal.tables..",
                    "io.vacancy.jdbc.internal.traversal..",
                    "io.vacancy.jdbc.internal.operation..",
                    "io.vacancy.jdbc.internal.execute..",
                    "io.vacancy.jdbc.internal.archive..",
                    "io.vacancy.jdbc.internal.trail..");

    @ArchTest
    static final ArchRule theStoreSaysNothingInWordsOfTheCore = noClasses()
            .that()
            .resideInAnyPackage("io.vacancy.jdbc.internal.traversal..", "io.vacancy.jdbc.internal.operation..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("io.vacancy.outcome..", "io.vacancy.trail..", "io.vacancy.question..");
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "io.vacancy.cli", importOptions = DoNotIncludeTests.class)
class CliArchitectureTest {

    @ArchTest
    static final ArchRule usesWhatItIsNamedAfterAndNoMore = noClasses()
            .should()
            .dependOnClassesThat()
            .resideOutsideOfPackages(
                    "java..",
                    "io.vacancy..",
                    "org.jspecify..",
                    "javax.sql..",
                    "javax.xml.stream..",
                    "picocli..",
                    "org.apache.commons.csv..",
                    "org.jline.utils..");

    @ArchTest
    static final ArchRule packagesDependOneWayOnly =
            slices().matching("io.vacancy.cli.(**)").should().beFreeOfCycles().allowEmptyShould(true);

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
}

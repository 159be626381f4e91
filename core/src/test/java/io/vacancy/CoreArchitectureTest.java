// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "io.vacancy", importOptions = DoNotIncludeTests.class)
class CoreArchitectureTest {

    @ArchTest
    static final ArchRule usesTheJdkAndTwoLibraries = noClasses()
            .should()
            .dependOnClassesThat()
            .resideOutsideOfPackages("io.vacancy..", "java..", "javax.crypto..", "org.slf4j..", "org.jspecify..");

    @ArchTest
    static final ArchRule knowsNoDatabaseAndNoNetwork =
            noClasses().should().dependOnClassesThat().resideInAnyPackage("java.sql..", "javax.sql..", "java.net..");

    @ArchTest
    static final ArchRule packagesDependOneWayOnly =
            slices().matching("io.vacancy.(**)").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule nothingDependsOnTheFacade = noClasses()
            .that()
            .resideOutsideOfPackage("io.vacancy")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("io.vacancy");

    @ArchTest
    static final ArchRule whatAStoreImplementsKnowsNothingInternal = noClasses()
            .that()
            .resideInAnyPackage("io.vacancy.spi..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "io.vacancy.internal.resolve..",
                    "io.vacancy.internal.compile..",
                    "io.vacancy.internal.judge..",
                    "io.vacancy.internal.execute..",
                    "io.vacancy.internal.message..",
                    "io.vacancy.internal.audit..");
}

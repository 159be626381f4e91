// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "io.vacancy.web", importOptions = DoNotIncludeTests.class)
class WebArchitectureTest {

    /** No container, no database and no framework behind it. */
    @ArchTest
    static final ArchRule usesWhatItIsNamedAfterAndNoMore = noClasses()
            .should()
            .dependOnClassesThat()
            .resideOutsideOfPackages(
                    "java..",
                    "javax.crypto..",
                    "io.vacancy..",
                    "org.jspecify..",
                    "jakarta.servlet..",
                    "gg.jte..",
                    "com.fasterxml.jackson..",
                    "org.slf4j..");

    @ArchTest
    static final ArchRule packagesDependOneWayOnly =
            slices().matching("io.vacancy.web.(**)").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule worksByThePublicFaceOfTheCore = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("io.vacancy.spi..", "io.vacancy.jdbc..", "io.vacancy.internal.execute..");
}

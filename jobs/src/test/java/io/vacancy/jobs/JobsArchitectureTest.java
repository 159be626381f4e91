// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "io.vacancy.jobs", importOptions = DoNotIncludeTests.class)
class JobsArchitectureTest {

    @ArchTest
    static final ArchRule packagesDependOneWayOnly =
            slices().matching("io.vacancy.jobs.(**)").should().beFreeOfCycles();

    /** Another scheduler is another package, and nothing else. */
    @ArchTest
    static final ArchRule onlyOnePackageKnowsTheScheduler = noClasses()
            .that()
            .resideOutsideOfPackages("io.vacancy.jobs.internal.schedule..", "io.vacancy.jobs.timing..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("com.github.kagkarlsson..");

    /** The tables of jobs are known in one place; what engines do differently is in none of them. */
    @ArchTest
    static final ArchRule onlyTheStoreWritesSql = noClasses()
            .that()
            .resideOutsideOfPackages(
                    "io.vacancy.jobs.internal.store..", "io.vacancy.jobs.internal.schedule..", "io.vacancy.jobs.pace..")
            .should()
            .dependOnClassesThat()
            .haveFullyQualifiedName("java.sql.PreparedStatement");

    @ArchTest
    static final ArchRule deletesByThePublicFaceOfTheCore = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "io.vacancy.internal.execute..", "io.vacancy.internal.judge..", "io.vacancy.jdbc.internal..");
}

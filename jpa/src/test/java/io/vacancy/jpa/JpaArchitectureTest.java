// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "io.vacancy.jpa", importOptions = DoNotIncludeTests.class)
class JpaArchitectureTest {

    @ArchTest
    static final ArchRule packagesDependOneWayOnly =
            slices().matching("io.vacancy.jpa.(**)").should().beFreeOfCycles();

    /** What the provider has of a mapping is asked in one place. */
    @ArchTest
    static final ArchRule onlyOnePackageReadsTheMapping = noClasses()
            .that()
            .resideOutsideOfPackages("io.vacancy.jpa.internal..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("org.hibernate.metamodel..", "org.hibernate.persister..", "org.hibernate.engine..");

    /** Whatever differs between lines of the provider would be in its own internals. */
    @ArchTest
    static final ArchRule nobodyUsesTheProvidersInternals =
            noClasses().should().dependOnClassesThat().resideInAnyPackage("org.hibernate..internal..");

    @ArchTest
    static final ArchRule deletesByThePublicFaceOfTheCore =
            noClasses().should().dependOnClassesThat().resideInAnyPackage("io.vacancy.internal..");
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot4.quay;

import org.springframework.boot.autoconfigure.AutoConfigurationPackage;

/** Where the entities and repositories are looked for. */
@AutoConfigurationPackage
public class Quay {}

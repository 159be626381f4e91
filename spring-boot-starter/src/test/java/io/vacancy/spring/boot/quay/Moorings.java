// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot.quay;

import io.vacancy.spring.data.RoutedDeletions;
import org.springframework.data.jpa.repository.JpaRepository;

public interface Moorings extends JpaRepository<Mooring, Long>, RoutedDeletions<Mooring, Long> {}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot.quay;

import io.vacancy.spring.data.Deletions;
import org.springframework.data.jpa.repository.JpaRepository;

public interface Boats extends JpaRepository<Boat, Long>, Deletions<Boat, Long> {}

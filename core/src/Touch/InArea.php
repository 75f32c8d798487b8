<?php

declare(strict_types=1);

namespace Cossel\Core\Touch;

/** Marks kinds that act inside areas only: they cannot stand in base or finish, nor on an outside. */
interface InArea {}

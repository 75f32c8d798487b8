<?php

declare(strict_types=1);

namespace Cossel\Core\Propose;

use Cossel\Core\Motion\FrameSource;
use Cossel\Core\Motion\IrisCircle;
use Cossel\Core\Picture\Rect;
use Cossel\Core\Picture\Robust;

/**
 * The colours round an iris on a grid along the eye and across it, and what each looks like: white or iris, or skin and lashes. Kernel
 * class; places are in radii of the iris from its centre.
 */
final class EyeCells
{
    /** How far along the eye and across it is looked, in radii. */
    public const ALONG = 3.6;
    public const ACROSS = 1.7;
    /** Columns and rows to a radius. */
    public const COLUMNS = 6;
    public const ROWS = 9;
    /** Spread of colours that is always there. */
    private const SPREAD = 0.03;
    /** What is further from the white than this share of the way to the skin is something else. */
    private const UNLIKE = 0.8;
    /** What a place at the edge of what is looked at counts less. */
    private const FAR = 0.3;
    /** Rows of the iris' disc that are known to be open, to both sides, and how surely. */
    private const BARE = 0.35;
    private const KNOWN = 0.5;
    /** The most a single place can say. */
    private const MOST = 2.0;
    /** Lashes and folds are as dark as this share of the skin. */
    private const DARK = 0.35;
    /** How much the whites of two eyes differ at most, R'G'B'. */
    private const STRANGE = 0.15;

    /** @var array{float, float, float} R'G'B' of the white to the left of the iris, */
    public readonly array $left;
    /** @var array{float, float, float} and to its right */
    public readonly array $right;

    /** @param list<list<array{float, float, float}>> $cells R'G'B' column by column, from above down */
    private function __construct(private readonly array $cells, ?self $other)
    {
        $left = $this->middle(-1.6, -1.15, -0.25, 0.3);
        $right = $this->middle(1.15, 1.6, -0.25, 0.3);
        // On a glance the white is seen on one side only: the side less tinted, as skin is, speaks for both then.
        $skin = self::tint($this->middle(-1.3, 1.3, 1.35, 1.7));
        $skinny = static fn(float $own, float $beside): bool => $own > 0.5 * ($beside + $skin) && $beside < 0.8 * $skin;
        if ($skinny(self::tint($left), self::tint($right))) {
            $left = $right;
        } elseif ($skinny(self::tint($right), self::tint($left))) {
            $right = $left;
        }
        $this->left = $other === null ? $left : self::likely($left, $right, $other->left);
        $this->right = $other === null ? $right : self::likely($right, $left, $other->right);
    }

    /**
     * @param float     $tilt  of the line between the corners, radians clockwise
     * @param self|null $other the other eye's, whose white this eye's is like
     */
    public static function round(FrameSource $source, int $frame, IrisCircle $iris, float $tilt, ?self $other = null): self
    {
        $reach = $iris->radius * hypot(self::ALONG, self::ACROSS) + 2;
        $rect = Rect::around($iris->x - $reach, $iris->y - $reach, $iris->x + $reach, $iris->y + $reach)->intersect($source->frame());
        $planes = $source->colour($frame, $rect);
        $cos = $iris->radius * cos($tilt);
        $sin = $iris->radius * sin($tilt);
        $cells = [];
        for ($i = 0, $columns = self::columns(); $i < $columns; ++$i) {
            $u = self::along($i);
            $column = [];
            for ($j = 0, $rows = self::rows(); $j < $rows; ++$j) {
                $v = self::across($j);
                $x = max(0, min($rect->width - 1, (int) ($iris->x + $u * $cos - $v * $sin) - $rect->x));
                $y = max(0, min($rect->height - 1, (int) ($iris->y + $u * $sin + $v * $cos) - $rect->y));
                $k = $y * $rect->width + $x;
                $column[] = [$planes->r[$k], $planes->g[$k], $planes->b[$k]];
            }
            $cells[] = $column;
        }

        return new self($cells, $other);
    }

    /**
     * How much more each place looks like eye than like skin.
     *
     * @return list<list<float>> column by column
     */
    public function says(): array
    {
        $iris = $this->middle(-0.85, 0.85, -0.4, 0.5, 0.45, 0.85);
        $above = $this->middle(-1.3, 1.3, -1.7, -1.3);
        $below = $this->middle(-1.3, 1.3, 1.35, 1.7);
        $says = [];
        foreach ($this->cells as $i => $column) {
            $u = self::along($i);
            $white = $u < 0 ? $this->left : $this->right;
            $far = self::UNLIKE * self::apart($white, $below);
            $told = [];
            foreach ($column as $j => $colour) {
                $v = self::across($j);
                $disc = $u * $u + $v * $v;
                $eye = self::apart($colour, $white);
                $skin = min($far, self::apart($colour, $above), self::apart($colour, $below));
                if ($disc < 1.1) {
                    $eye = min($eye, self::apart($colour, $iris));
                } else {
                    [$r, $g, $b] = $v < 0 ? $above : $below;
                    $skin = min($skin, self::apart($colour, [self::DARK * $r, self::DARK * $g, self::DARK * $b]));
                }
                $like = max(-self::MOST, min(self::MOST, ($skin - $eye) / self::SPREAD / 4)) - self::FAR * ($u * $u / 9 + $v * $v);
                // The iris was found by its edges to the left and right: there it is not covered.
                $told[] = $disc < 0.8 && abs($v) < self::BARE ? max(self::KNOWN, $like) : $like;
            }
            $says[] = $told;
        }

        return $says;
    }

    /** Where the middle of a column is. */
    public static function along(int $column): float
    {
        return ($column + 0.5) / self::COLUMNS - self::ALONG;
    }

    public static function rows(): int
    {
        return (int) round(2 * self::ACROSS * self::ROWS);
    }

    private static function columns(): int
    {
        return (int) round(2 * self::ALONG * self::COLUMNS);
    }

    private static function across(int $row): float
    {
        return ($row + 0.5) / self::ROWS - self::ACROSS;
    }

    /**
     * What is not like the white of the other eye is what is behind the face.
     *
     * @param array{float, float, float} $own
     * @param array{float, float, float} $beside
     * @param array{float, float, float} $theirs
     *
     * @return array{float, float, float}
     */
    private static function likely(array $own, array $beside, array $theirs): array
    {
        return match (true) {
            self::apart($own, $theirs) < self::STRANGE => $own,
            self::apart($beside, $theirs) < self::STRANGE => $beside,
            default => $theirs,
        };
    }

    /**
     * The median colour of a window without what lies outside a ring.
     *
     * @return array{float, float, float}
     */
    private function middle(float $u0, float $u1, float $v0, float $v1, float $from = 0.0, float $to = INF): array
    {
        $found = [[], [], []];
        foreach ($this->cells as $i => $column) {
            $u = self::along($i);
            if ($u < $u0 || $u > $u1) {
                continue;
            }
            foreach ($column as $j => $colour) {
                $v = self::across($j);
                $d = sqrt($u * $u + $v * $v);
                if ($v >= $v0 && $v <= $v1 && $d >= $from && $d <= $to) {
                    foreach ($colour as $c => $x) {
                        $found[$c][] = $x;
                    }
                }
            }
        }
        $middles = array_map(static fn(array $v): float => $v === [] ? 0.0 : Robust::median($v), $found);

        return [$middles[0], $middles[1], $middles[2]];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     */
    private static function apart(array $a, array $b): float
    {
        $r = $a[0] - $b[0];
        $g = $a[1] - $b[1];
        $b = $a[2] - $b[2];

        return sqrt($r * $r + $g * $g + $b * $b);
    }

    /** @param array{float, float, float} $colour */
    private static function tint(array $colour): float
    {
        return (max($colour) - min($colour)) / max(0.02, max($colour));
    }
}

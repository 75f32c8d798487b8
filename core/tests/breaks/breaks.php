<?php

declare(strict_types=1);

/** By name: file in core/src, a piece of it, what it is broken to, and the quick tests of which one must fail. */
return [
    'forward-backward check switched off' => ['Motion/PointSearch.php', '< self::BACK;', '< 99.0;', 'PointSearchTest'],
    'no going back to the first look' => ['Motion/PointSearch.php', '$hit = $first;', '$hit = $hit;', 'PointSearchTest'],
    'any likeness is enough' => ['Motion/PointSearch.php', '$hit[2] < self::ALIKE', '$hit[2] < -1.0', 'PointSearchTest'],
    'no median for doubtful points' => ['Motion/PointSearch.php', '$mx = self::median($shiftX);', '$mx = 0.0;', 'PointSearchTest'],
    'a lost region is sighted anywhere' => ['Motion/Sighting.php', 'SIGHTED = 0.45', 'SIGHTED = 0.02', 'PointSearchTest'],
    'sighting by brightness instead of likeness' => ['Motion/Sighting.php', '$values[$k] = $v - $mean;', '$values[$k] = $v;', 'PointSearchTest'],
    'half the stiffness of an outline' => ['Motion/EdgeSamples.php', '$xx = 2 * $stiffness', '$xx = 1 * $stiffness', 'EdgesTest'],
    'normals by the way a path goes round' => ['Motion/EdgeSamples.php', 'if ($area < 0)', 'if (false)', 'EdgesTest'],
    'handles of a moved path left out' => ['Motion/EdgeSamples.php', '$out[$i] = [$x[0], $y[0]];', '$out[$i] = [0.0, 0.0];', 'EdgesTest'],
    'profiles with their mean' => ['Motion/EdgeProfile.php', '$out[] = $line[$i] - $mean;', '$out[] = $line[$i];', 'EdgesTest'],
    'radii of an iris held too hard' => ['Motion/RoundEdges.php', '$a[$i][$i] += 4.0;', '$a[$i][$i] += 400.0;', 'RoundEdgesTest'],
    'iris told from skin without the light' => ['Motion/IrisLook.php', '$a * $skin[0]', '0.0 * $skin[0]', 'RoundEdgesTest'],
    'surroundings are not seen in an area' => ['Judge/Influence.php', '$touch->side === Side::Outside', 'false', 'InfluenceTest'],
    'areas that are not live count as seen' => ['Judge/Influence.php', '$area->live->weight($frame) > 0.0', 'true', 'InfluenceTest'],
    'sidelight from the other side' => ['Touch/Sidelight.php', "deg2rad(\$values['direction'])", "deg2rad(180 - \$values['direction'])", 'FormulasTest|RetouchTest|TouchTest'],
    'a hard knee at the legal limit' => ['Touch/Legal.php', 'return $most - $knee * $knee / ($v - $most + 2 * $knee);', 'return min($v, $most);', 'FormulasTest|RetouchTest|TouchTest'],
    'pores smoothed across edges' => ['Touch/Even.php', '$t = $c * $limit;', '$t = 0.0;', 'RetouchTest|TouchTest'],
    'skin evened by its mean light' => ['Touch/Even.php', '$mean + 1.2 * $spread', '$mean', 'RetouchTest|TouchTest'],
];

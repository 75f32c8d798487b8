<?php

declare(strict_types=1);

namespace App\Footage;

use Illuminate\Support\Facades\Log;
use Symfony\Component\Process\Process;

/** Why ffmpeg or ffprobe failed, in words for people; its own words go to the log. */
final class FfmpegWords
{
    private const KNOWN = [
        'File too large' => 'it would be larger than the limit of a file',
        'Cannot allocate memory' => 'it needs more memory than it may have',
        'moov atom not found' => 'its index is missing: it was not copied whole',
        'Permission denied' => 'a file it needs may not be opened',
        'not on whitelist' => 'it holds what is not taken from outside',
        'not in whitelist' => 'it holds what is not taken from outside',
        'Invalid data found' => 'it is damaged, or is not what its name says',
        'EBML header parsing failed' => 'it is damaged, or is not what its name says',
        'End of file' => 'it ends too early',
        'exceeds max_pixels' => 'its picture is larger than the limit',
        'Picture size' => 'its picture is larger than the limit',
    ];

    public static function reason(Process $process): string
    {
        $said = $process->getErrorOutput();
        foreach (self::KNOWN as $words => $reason) {
            if (stripos($said, $words) !== false) {
                return $reason;
            }
        }
        Log::warning('ffmpeg failed', ['said' => mb_strimwidth($said, 0, 2000, '…')]);

        return 'for a reason that is in the log of the server';
    }
}

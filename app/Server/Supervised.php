<?php

declare(strict_types=1);

namespace App\Server;

use Illuminate\Support\Facades\Http;

/** What supervisord says of the programs it runs, by its XML-RPC over a socket. */
final class Supervised
{
    private const CALL = '<?xml version="1.0"?><methodCall><methodName>supervisor.getAllProcessInfo</methodName><params/></methodCall>';

    /** @return list<array{name: string, runs: bool, since: int, said: string}> none where nothing is supervised */
    public static function programs(): array
    {
        $socket = (string) config('cossel.supervisor');
        if ($socket === '' || !file_exists($socket)) {
            return [];
        }
        $answer = Http::withOptions(['curl' => [CURLOPT_UNIX_SOCKET_PATH => $socket]])->timeout(5)->withBody(self::CALL, 'text/xml')->post('http://localhost/RPC2');
        $programs = [];
        $told = simplexml_load_string($answer->body());
        foreach ($told === false ? [] : $told->xpath('//array/data/value/struct') as $struct) {
            $found = [];
            foreach ($struct->member as $member) {
                $found[(string) $member->name] = (string) ($member->value->children()[0] ?? '');
            }
            $programs[] = ['name' => $found['name'] ?? '', 'runs' => in_array($found['statename'] ?? '', ['RUNNING', 'STARTING'], true), 'since' => (int) ($found['start'] ?? 0), 'said' => $found['description'] ?? ''];
        }

        return $programs;
    }
}

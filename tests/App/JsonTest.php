<?php

declare(strict_types=1);

namespace Tests\App;

use App\Json;

/** JSON from outside, bounded before it is built. */
final class JsonTest extends AppTestCase
{
    public function test_what_is_within_the_bounds_is_read_as_it_is(): void
    {
        config(['limits.json' => ['values' => 6, 'arrays' => 3]]);
        foreach (['{"a":[1,2,"]]]],,,[["],"b":{"c":"\\"[[,,,,,,,,"}}', '"\\\\"', '1', 'null', '[]', '""'] as $text) {
            self::assertSame(json_decode($text, true), Json::read($text), $text);
        }
    }

    public function test_what_is_beyond_them_is_refused_in_words(): void
    {
        config(['limits.json' => ['values' => 6, 'arrays' => 3]]);
        foreach (['[[],[],[]]' => 'it holds more than 3 lists or 6 values', '[1,2,3,4,5,6,7,8]' => 'it holds more than 3 lists or 6 values', '{"a":' => 'this is no JSON (syntax error)', '"x' => 'this is no JSON (control character error, possibly incorrectly encoded)', '"\\' => 'this is no JSON'] as $text => $words) {
            try {
                Json::read((string) $text);
                self::fail("It was read: {$text}");
            } catch (\JsonException $reason) {
                self::assertStringStartsWith($words, $reason->getMessage());
            }
        }
        config(['limits.json' => ['values' => 600, 'arrays' => 300]]);
        $this->expectExceptionMessage('it is nested deeper than 128');
        Json::read(str_repeat('[', 129) . str_repeat(']', 129));
    }
}

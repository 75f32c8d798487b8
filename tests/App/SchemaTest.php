<?php

declare(strict_types=1);

namespace Tests\App;

use App\Console\Schema;
use Cossel\Core\Recipe\InvalidRecipe;
use Cossel\Core\Recipe\RecipeReader;
use Cossel\Core\Recipe\RecipeWriter;
use Cossel\Core\Tests\Documents;
use Cossel\Core\Touch\Kinds;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\TestCase;

/** The written schema is the reader's own format: both take and refuse the same. */
final class SchemaTest extends TestCase
{
    private static function takes(mixed $document): bool
    {
        $schema = json_decode((string) file_get_contents(dirname(__DIR__, 2) . '/docs/recipe.schema.json'));

        return (new Validator())->validate(json_decode((string) json_encode($document)), $schema)->isValid();
    }

    public function test_the_file_is_up_to_date(): void
    {
        self::assertEquals(json_decode((string) json_encode(Schema::document(Kinds::all())), true), json_decode((string) file_get_contents(dirname(__DIR__, 2) . '/docs/recipe.schema.json'), true));
    }

    public function test_what_is_written_is_valid(): void
    {
        $area = Documents::area(['motion' => ['by' => 'follow', 'keys' => [['frame' => 3, 'move' => [0, 0.1]]]], 'strength' => ['value' => 1, 'keys' => [['frame' => 2, 'value' => 0.5]]]]);
        $written = (new RecipeWriter())->write(Documents::read(['areas' => [$area], 'base' => [['id' => 'x', 'kind' => 'tone']]]));
        self::assertTrue(self::takes($written));
    }

    public function test_both_refuse_the_same(): void
    {
        $good = Documents::recipe(['areas' => [Documents::area()], 'base' => [['id' => 'b', 'kind' => 'exposure', 'stops' => 1]], 'assets' => new \stdClass()]);
        self::assertTrue(self::takes($good));
        $spoilt = [
            ['base', 0, 'stops', 7], ['base', 0, 'kind', 'sparkle'], ['base', 0, 'side', 'inside'], ['base', 0, 'amount', '1'], ['source', 'rate', '24'],
            ['areas', 0, 'id', 'no spaces'], ['areas', 0, 'outline', 'shapes', 0, 'kind', 'star'], ['areas', 0, 'live', 'from', 1.5], ['areas', 0, 'pick', ['space' => 'hsl']], ['areas', 0, 'pair', 'r'], ['extra', 1], ['cossel', 'recipe/2'],
        ];
        foreach ($spoilt as $path) {
            $document = $good;
            $place = &$document;
            foreach (array_slice($path, 0, -1) as $step) {
                $place = &$place[$step];
            }
            $place = end($path);
            unset($place);
            self::assertFalse(self::takes($document), implode('/', array_map(json_encode(...), $path)));
            try {
                (new RecipeReader(Kinds::all()))->read(json_decode((string) json_encode($document), true));
                self::fail(implode('/', array_map(json_encode(...), $path)));
            } catch (InvalidRecipe $e) {
                self::assertNotSame('', $e->getMessage());
            }
        }
    }
}

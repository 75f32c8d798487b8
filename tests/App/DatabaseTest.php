<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;

/** Several servers and workers write to one database. */
final class DatabaseTest extends AppTestCase
{
    public function testATransactionHoldsTheWriteLockFromItsBeginning(): void
    {
        $other = new \PDO('sqlite:' . $this->database(), options: [\PDO::ATTR_TIMEOUT => 0]);
        $connection = DB::connection('beside');
        $connection->statement('create table notes (words text)');

        $connection->transaction(static function () use ($connection, $other): void {
            $connection->table('notes')->count();
            try {
                $other->exec("insert into notes values ('between')");
                self::fail('Another wrote between the reading and the writing of a transaction.');
            } catch (\PDOException $refused) {
                self::assertStringContainsString('locked', $refused->getMessage());
            }
            $connection->table('notes')->insert(['words' => 'mine']);
        });
        $other->exec("insert into notes values ('after')");

        self::assertSame(['mine', 'after'], $connection->table('notes')->pluck('words')->all());
    }

    public function testWhatBreaksOffIsUndone(): void
    {
        $this->database();
        $connection = DB::connection('beside');
        $connection->statement('create table notes (words text)');
        try {
            $connection->transaction(static function () use ($connection): never {
                $connection->table('notes')->insert(['words' => 'half']);

                throw new \DomainException('broken off');
            });
        } catch (\DomainException) {
        }

        self::assertSame(0, $connection->table('notes')->count());
        self::assertSame(0, $connection->transactionLevel());
    }

    /** A database on disk beside the one of the test, with the same settings. */
    private function database(): string
    {
        $file = "{$this->folder}/beside.sqlite";
        touch($file);
        config(['database.connections.beside' => ['database' => $file] + config('database.connections.sqlite')]);

        return $file;
    }
}

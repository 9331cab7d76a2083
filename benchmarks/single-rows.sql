insert into bench.rows (body) values (repeat('a', 600));

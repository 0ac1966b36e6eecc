-- Another outline over a publication, such as one for paper: it has its title and values, and entries and variants of its own.
alter table publications add column outline_of text;
alter table publications add foreign key (workspace, outline_of) references publications;
create index publications_outline_of on publications (workspace, outline_of) where outline_of is not null;

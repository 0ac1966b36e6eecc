-- What the bytes of pictures say they are; what a request says of them does not count.
create table image_files (
  workspace uuid not null references workspaces,
  digest text not null references blobs,
  media_type text not null,
  width integer,
  height integer,
  primary key (workspace, digest)
);

-- Pictures of before, by their first bytes (PNG, ISO/IEC 15948, 5.2; JPEG, ITU-T T.81, B.1.1.3; GIF 89a, 17; WebP, RFC 9649, 2.4).
insert into image_files (workspace, digest, media_type, width, height)
select distinct on (f.workspace, f.digest) f.workspace, f.digest,
       case
         when substring(c.bytes from 1 for 8) = '\x89504e470d0a1a0a' then 'image/png'
         when substring(c.bytes from 1 for 3) = '\xffd8ff' then 'image/jpeg'
         when substring(c.bytes from 1 for 4) = '\x47494638' then 'image/gif'
         when substring(c.bytes from 1 for 4) = '\x52494646' and substring(c.bytes from 9 for 4) = '\x57454250' then 'image/webp'
         else 'image/svg+xml'
       end,
       f.width, f.height
  from (
    select r.workspace, file ->> 'digest' as digest, (file ->> 'width')::integer as width, (file ->> 'height')::integer as height
      from revisions r
     cross join lateral (
       select r.body -> 'file' union all
       select v -> 'file' from jsonb_array_elements(r.body -> 'versions') v
     ) as files (file)
     where r.body ->> 'type' = 'image'
  ) f
  join blob_chunks c on c.digest = f.digest and c.number = 0
 order by f.workspace, f.digest;
